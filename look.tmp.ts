import { openBrowser } from "./tests/support/browser";
import { connect } from "./src/server/db/connection";
import { readFileSync, readdirSync } from "node:fs";
void (async () => {
  const sql = connect(process.env.DB!, 1);
  const one = async (q: any) => (await q)[0];
  const odalys = await one(sql`select id from person where name='Odalys Brandt'`);
  // a drafted/handed-back piece with a voice on words
  const desk = await one(sql`select piece.id, piece.state, piece.hand_out_id as h from mark join piece on piece.id=mark.piece_id join hand_out on hand_out.id = hand_out_id join assignment on assignment.id=assignment_id where mark.clip_id is not null and mark.place is null and title like 'Letter%' and round_number = piece.round and piece.state = 'handed_back' order by piece.id limit 1`);
  const film = await one(sql`select piece.id, piece.student_id as s, piece.state from mark join piece on piece.id=mark.piece_id join item on item.id::text = mark.place->>'itemId' where item.kind='film' and mark.clip_id is not null order by (piece.state='handed_back') desc, piece.id limit 1`);
  const student = await one(sql`select piece.id, student_id as s, count(*) from mark join piece on piece.id=mark.piece_id where clip_id is not null and piece.state in ('to_revise','reworking') group by 1,2 order by 3 desc limit 1`);
  console.log(desk, film, student);
  const b = await openBrowser("http://127.0.0.1:4300");
  try {
    await b.enterAs(odalys.id);
    await b.go(`/desk?pile=all&piece=${desk.id}`);
    await b.awake("[data-sheet]"); await b.driver.sleep(1200);
    await b.driver.executeScript("document.querySelector('.voice')?.scrollIntoView({block:'center'})");
    await b.shot("/tmp/s1.png", { width: 1280, height: 800 });
    await b.go(`/desk?pile=all&piece=${film.id}`); await b.find("[data-player]"); await b.driver.sleep(1500);
    await b.driver.executeScript("const p=document.querySelector('[data-player]'); p.currentTime=2.1; p.scrollIntoView({block:'center'})"); await b.driver.sleep(800);
    await b.shot("/tmp/s2.png", { width: 1280, height: 800 });
    await b.enterAs(student.s);
    await b.go(`/work/${student.id}`); await b.driver.sleep(1500);
    await b.shot("/tmp/s3.png", { width: 1280, height: 800 });
  } finally { await b.close(); await sql.end(); }
})();
