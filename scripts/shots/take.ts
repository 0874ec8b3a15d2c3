import { connect } from "../../src/server/db/connection";
import { Key } from "selenium-webdriver";
import { openBrowser } from "../../tests/support/browser";

const PHONE = { width: 390, height: 844 };

/** What is below the page's foot comes only when it is scrolled to. */
const PICTURES_IN_VIEW =
  "return [...document.images].every((image) => image.complete || image.getBoundingClientRect().top > innerHeight)";

async function main(): Promise<void> {
  const sql = connect(process.env.DATABASE_URL!, 2);
  const one = async (query: PromiseLike<{ id: string }[]>) => (await query)[0]!.id;
  const odalys = await one(sql`select id from person where name = 'Odalys Brandt'`);
  const letter = await one(
    sql`select hand_out.id from hand_out join assignment on assignment.id = assignment_id where title like 'Letter%'`,
  );
  const gannet = await one(sql`select id from section where name = 'Gannet'`);
  const drafted = await one(
    sql`select standing.id from piece_standing standing join section on section.id = section_id where drafted and state = 'handed_in' and round = 1 and section.name in ('Gannet', 'Petrel', 'Plover') order by (select count(*) from mark where piece_id = standing.id) desc, standing.id limit 1`,
  );
  const again = await one(
    sql`select id from piece_standing where round > 1 and state = 'handed_in' order by (select count(*) from answer where piece_id = piece_standing.id) desc, id limit 1`,
  );
  const revising = await one(sql`
    select standing.id from piece_standing standing
    where state = 'to_revise' or (state = 'reworking' and round = 2)
    order by (hand_out_id = ${letter}) desc, (select count(*) from mark where piece_id = standing.id and nature = 'request') desc, standing.id limit 1`);
  const studentOf = (id: string) => one(sql`select student_id as id from piece where id = ${id}`);
  const writing = await one(
    sql`select id from piece_standing where state = 'started' and due > now() - interval '40 days' and exists (select from working_copy where piece_id = piece_standing.id) and exists (select from hand_out join assignment on assignment.id = assignment_id where hand_out.id = piece_standing.hand_out_id and assignment.parts @> '[{"kind": "writing"}]' and jsonb_array_length(assignment.parts) = 1 and hand_out.closes_at is null) order by (title like 'Moon phases%') desc, exists (select from checkpoint where piece_id = piece_standing.id) desc, id limit 1`,
  );
  const student = await one(sql`select student_id as id from piece where id = ${revising}`);
  const guardian = await one(
    sql`select id from person where kind = 'guardian' and name = 'Bríd Ní Bhriain'`,
  );

  const film = await one(
    sql`select standing.id from piece_standing standing join mark on mark.piece_id = standing.id join item on item.id::text = mark.place ->> 'itemId' where item.kind = 'film' and mark.kind = 'ink' and mark.round_number = standing.round order by (select count(*) from mark m where m.piece_id = standing.id and m.clip_id is not null) desc, standing.id limit 1`,
  );
  const browser = await openBrowser(process.env.ORIGIN!);
  const take = async (
    name: string,
    path: string | null,
    wait: string,
    size?: { width: number; height: number },
  ) => {
    if (path) await browser.go(path);
    await browser.find(wait);
    await browser.driver.wait(() => browser.driver.executeScript(PICTURES_IN_VIEW), 60_000);
    await browser.shot(`docs/screenshots/${name}.png`, size);
    console.log(`· docs/screenshots/${name}.png`);
  };
  await browser.enterAs(odalys);
  await take("today", "/today", "h2");
  await take("desk", `/desk?pile=drafted&piece=${drafted}`, "[data-sheet] [data-mark]");
  await browser.go(`/desk?pile=again&piece=${again}`);
  await browser.find("[data-sheet]");
  await browser.keys("c");
  await take("desk-round-2", null, "[data-sheet] ins");
  await browser.go(`/hand-out?section=${gannet}`);
  await browser.find(".ProseMirror");
  await browser.keys("Wind rose of the week");
  await browser.press("+ Plover");
  await browser.driver.executeScript("document.querySelector('.ProseMirror').focus()");
  await browser.keys(
    "Draw the wind of five days as a rose. Which way did it come from, and what came with it?",
  );
  await take("hand-out", null, ".ProseMirror");
  await take("sheet", `/hand-outs/${letter}`, "table");
  const goes = await one(
    sql`select hand_out_id as id from piece_standing standing where drafted and state = 'handed_in' and not exists (select from hand_back_batch_piece where piece_id = standing.id and waits) group by hand_out_id order by count(*) desc, hand_out_id limit 1`,
  );
  await take("hand-back", `/hand-back?handOut=${goes}`, "table");
  await take("student", `/students/${student}`, "table");
  const display = await one(sql`select hand_out_id as id from display limit 1`);
  await take("display", `/displays/${display}`, "main img");
  const curlew = await one(sql`select id from section where name = 'Curlew'`);
  await take("ledger", `/ledger/${curlew}`, "[role=grid]");
  await take("calendar", "/calendar", "table");
  await browser.go(`/desk?pile=all&piece=${film}`);
  await browser.find("video[data-player]");
  await browser.driver.sleep(800);
  await browser.driver.executeScript(
    "const p = document.querySelector('video[data-player]'); p.currentTime = 2.2; p.closest('[data-item]').scrollIntoView();",
  );
  await browser.driver.sleep(600);
  await take("film-lane", null, ".lane-mark");
  // The Desk on a photo; one criterion through all pieces; the bank.
  const marked = (kind: string, order: string) =>
    sql<
      { id: string; handOutId: string }[]
    >`select standing.id, standing.hand_out_id from piece_standing standing join mark on mark.piece_id = standing.id where mark.place ->> 'on' = ${kind} and mark.deleted_at is null and mark.round_number = standing.round group by standing.id, standing.hand_out_id order by count(*) filter (where mark.kind = ${order}) desc, count(*) desc, standing.id limit 5`;
  /** Lays one of them on the Desk and goes down it until a mark on a file is drawn, which happens as it comes into view. */
  const layMarked = async (pieces: readonly { id: string; handOutId: string }[]) => {
    for (const piece of pieces) {
      await browser.go(`/desk?pile=all&handOut=${piece.handOutId}&piece=${piece.id}`);
      await browser.find("[data-item]", 60);
      for (let n = 0; n < 30; n += 1) {
        const found = await browser.driver.executeScript<boolean>(
          "if (document.querySelector('[data-item] [data-mark]')) return true; document.querySelector('[data-scroll]').scrollTop += 300; return false",
        );
        if (found) return;
        await browser.driver.sleep(500);
      }
    }
    throw new Error("no piece shows a mark on a file");
  };
  await layMarked(await marked("picture", "ink"));
  await browser.driver.sleep(2500);
  await browser.driver.executeScript(
    "const s = document.querySelector('[data-scroll]'); s.scrollTop += document.querySelector('[data-item] [data-mark]').getBoundingClientRect().top - 260",
  );
  await browser.driver.sleep(600);
  await take("desk-photo", null, "[data-item] [data-mark]");
  const graded = await one(
    sql`select person_id as id from (select student_id as person_id, count(*) as n from score join piece on piece.id = piece_id join hand_out on hand_out.id = hand_out_id where section_id = ${gannet} group by student_id) scored order by n desc, person_id limit 1`,
  );
  await take("grade", `/ledger/${gannet}/grades/${graded}`, "table");
  await take("shelf-bank", "/shelf/comments", "nav[aria-label='Folders and tags']");
  await browser.enterAs(student);
  await take("my-work", "/work", "h2");
  await browser.go(`/work/${revising}`);
  await browser.find(".ProseMirror");
  await browser.find("[data-note]");
  await browser.awake("#to-do button");
  await browser.settled();
  await browser.keys(Key.F8);
  // A round whose requests are all ticked has no next one.
  await browser.find("article:focus", 5).catch(() => null);
  await take("piece-revising", null, "[data-note]");
  await take("piece-revising-phone", null, "[data-note]", PHONE);
  await browser.enterAs(await studentOf(writing));
  await browser.go(`/work/${writing}`);
  await take("piece-writing", null, ".ProseMirror");
  await browser.enterAs(guardian);
  await take("week-sheet", "/week", "h1");
  await browser.close();
  await sql.end();
}

main().catch((error: Error) => {
  console.error(error);
  process.exitCode = 1;
});
