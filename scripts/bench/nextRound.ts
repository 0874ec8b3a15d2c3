import { randomUUID } from "node:crypto";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { handBack } from "../../src/server/handingBack/handBack";
import { addMark } from "../../src/server/marking/marks";
import { handIn, openPiece } from "../../src/server/pieces/moves";
import { openBrowser, type Browser } from "../../tests/support/browser";
import { asPerson, doc } from "../../tests/support/database";
import { median } from "./desk";
import { handOutSimply } from "../../tests/support/handOut";

const MARKS = 60;
const TEXT = Array.from(
  { length: 120 },
  (_, n) => `On day ${n} the tide came in later than the table had it.`,
).join(" ");

type Pupil = Person & { pieceId: string };

/** The first view of a next round with 60 earlier marks at the Desk, and a round of 60 requests on a slow phone. */
export async function nextRoundLines(sql: Sql, origin: string): Promise<string[]> {
  const { odalys, handOutId, pupils } = await makeRounds(sql);
  const [plain, again, revising] = pupils as [Pupil, Pupil, Pupil];
  const browser = await openBrowser(origin);
  try {
    await browser.enterAs(odalys.id);
    const first = await firstView(browser, handOutId, plain.pieceId, "[data-sheet] p");
    const next = await firstView(browser, handOutId, again.pieceId, "[data-sheet] mark");
    await browser.enterAs(revising.id);
    const press = await pressesOnPhone(browser, revising.pieceId);
    return [
      `- The Desk's first view of a piece in its next round with ${MARKS} earlier marks: ${next.toFixed(0)} ms from the address to the marks on their words; of one in its first round: ${first.toFixed(0)} ms (ratio ${(next / first).toFixed(2)}).`,
      `- A round of ${MARKS} requests on a slow phone (4 × slower processor): from a press on “Next” to its note, median ${press.toFixed(0)} ms.`,
    ];
  } finally {
    await browser.close();
  }
}

async function makeRounds(sql: Sql) {
  const now = new Date();
  const person = (name: string) => sql<Person[]>`
    select person.id, kind, person.name, called, school_id, time_zone as zone
    from person join school on school.id = school_id where person.name = ${name}`;
  const odalys = (await person("Odalys Brandt"))[0]!;
  const [section] = await sql<{ id: string }[]>`select id from section where name = 'Curlew'`;
  const owner = asPerson(sql, odalys);
  const due = new Date(now.getTime() + 3 * 86_400_000).toISOString().slice(0, 16);
  const { handOuts } = await owner.change(now, (call) =>
    handOutSimply(call, section!.id, { title: "Sixty notes", instructions: doc("Write."), due }),
  );
  const handOutId = handOuts[0]!.id;
  const pupils = await sql<Pupil[]>`
    select piece.id as piece_id, person.id, person.kind, person.name, called, person.school_id, ${odalys.zone} as zone
    from piece join person on person.id = student_id where hand_out_id = ${handOutId} order by sort_name limit 3`;
  for (const pupil of pupils)
    await asPerson(sql, pupil).change(now, (call) =>
      handIn(call, pupil.pieceId, { doc: doc(TEXT) }, 0),
    );
  for (const pupil of pupils.slice(1)) await markAndReturn(sql, odalys, pupil, due);
  const [, again] = pupils;
  await asPerson(sql, again!).change(now, (call) => openPiece(call, again!.pieceId));
  const [copy] = await sql<{ revision: string }[]>`
    select revision from working_copy where piece_id = ${again!.pieceId}`;
  const revision = Number(copy?.revision ?? 0);
  await asPerson(sql, again!).change(now, (call) =>
    handIn(call, again!.pieceId, { doc: doc(`In March. ${TEXT}`) }, revision),
  );
  return { odalys, handOutId, pupils: [...pupils] };
}

async function markAndReturn(sql: Sql, odalys: Person, pupil: Pupil, due: string): Promise<void> {
  const now = new Date();
  const [version] = await sql<{ id: string }[]>`
    select id from version where piece_id = ${pupil.pieceId}`;
  await asPerson(sql, odalys).change(now, async (call) => {
    for (let n = 0; n < MARKS; n += 1) {
      const start = TEXT.indexOf(`day ${n} `);
      await addMark(call, pupil.pieceId, {
        ...{ id: randomUUID(), kind: "note", nature: "request", body: `Which month is day ${n}?` },
        ...{ start, end: start + `day ${n}`.length, replacement: "" },
        ...{ versionId: version!.id, commentId: null },
      });
    }
  });
  const nextDue = new Date(Date.parse(`${due}:00Z`) + 6 * 86_400_000).toISOString().slice(0, 16);
  await asPerson(sql, odalys).change(now, (call) =>
    handBack(call, pupil.pieceId, { outcome: "revise", due: nextDue }),
  );
}

/** Milliseconds from the address to the first of `css`, told from inside the page; the median of five. */
async function firstView(browser: Browser, handOutId: string, pieceId: string, css: string) {
  const times: number[] = [];
  for (let n = 0; n < 6; n += 1) {
    await browser.go(`/desk?pile=all&handOut=${handOutId}&piece=${pieceId}`);
    const at = await browser.driver.executeAsyncScript<number>(
      `const [css, done] = arguments;
       const look = () => document.querySelector(css) ? done(performance.now()) : requestAnimationFrame(look);
       look();`,
      css,
    );
    times.push(at);
  }
  // The first fetches what the browser keeps.
  return median(times.slice(1));
}

async function pressesOnPhone(browser: Browser, pieceId: string): Promise<number> {
  const driver = browser.driver as unknown as {
    sendDevToolsCommand(m: string, p: object): Promise<void>;
  };
  await driver.sendDevToolsCommand("Emulation.setDeviceMetricsOverride", {
    ...{ width: 390, height: 844, deviceScaleFactor: 1, mobile: true },
  });
  await browser.go(`/work/${pieceId}`);
  await browser.find(".ProseMirror [data-mark]");
  await browser.settled();
  await driver.sendDevToolsCommand("Emulation.setCPUThrottlingRate", { rate: 4 });
  const times: number[] = [];
  for (let n = 0; n < 10; n += 1)
    times.push(
      await browser.driver.executeAsyncScript<number>(
        `const done = arguments[0];
         const before = document.activeElement?.closest("[data-note]");
         const at = performance.now();
         [...document.querySelectorAll("#to-do button")].find((b) => b.textContent.startsWith("Next")).click();
         const look = () => {
           const note = document.activeElement?.closest("[data-note]");
           if (note && note !== before) done(performance.now() - at);
           else requestAnimationFrame(look);
         };
         look();`,
      ),
    );
  await driver.sendDevToolsCommand("Emulation.setCPUThrottlingRate", { rate: 1 });
  return median(times);
}
