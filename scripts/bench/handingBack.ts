import { aPart } from "../../src/core/handouts/parts";
import { checklist, leftOf, nextTask } from "../../src/core/rounds/checklist";
import { wholeMark } from "../../src/core/marks/schema";
import type { AnsweredMark } from "../../src/core/views/views";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { giveWholeHandOut } from "../../src/server/fetching/wholeHandOut";
import { makeBatch } from "../../src/server/handingBack/batches";
import { sendBatch } from "../../src/server/handingBack/sendBatch";
import { saveFeedback } from "../../src/server/marking/draft";
import { handIn } from "../../src/server/pieces/moves";
import { asPerson, doc, smallSchool } from "../../tests/support/database";
import { putFile } from "../../tests/support/files";
import { handOutSimply } from "../../tests/support/handOut";

const PART = "00000000-0000-4000-8000-0000000000bf";
const STUDENTS = 200;
const FILE = 5_000_000;
const NOW = new Date("2026-10-14T15:00:00Z");

/** Handing back 200 pieces in one act, and fetching them with a file of 5 MB each as one zip. */
export async function handingBackLines(sql: Sql): Promise<string[]> {
  const { owner, handOutId, pieceIds } = await makeClass(sql);
  const teacher = asPerson(sql, owner);
  const batch = await teacher.change(NOW, (call) =>
    makeBatch(call, {
      ...{ pieceIds, outcome: "final", due: null, at: null, hold: 0, message: "" },
      ...{ scores: "now", scoresAt: null },
    }),
  );
  const began = performance.now();
  await sendBatch(sql, { batchId: batch.id }, NOW);
  const back = (performance.now() - began) / 1000;
  const zip = await fetchZip(teacher, handOutId);
  return [
    `- Handing back ${STUDENTS} pieces in one act: ${back.toFixed(1)} s (${((back * 1000) / STUDENTS).toFixed(0)} ms a piece, each its own transaction).`,
    `- A zip of ${STUDENTS} pieces with 5 MB each: ${(zip.bytes / zip.seconds / 1e6).toFixed(0)} MB/s, ${(zip.bytes / 1e6).toFixed(0)} MB; memory grew by at most ${(zip.grew / 1e6).toFixed(0)} MB.`,
    checklistLine(),
  ];
}

async function makeClass(
  sql: Sql,
): Promise<{ owner: Person; handOutId: string; pieceIds: string[] }> {
  const school = await smallSchool(sql, STUDENTS);
  const given = { title: "Rain log", instructions: doc("Write."), points: "10" };
  const { handOuts } = await asPerson(sql, school.owner).change(NOW, (call) =>
    handOutSimply(call, school.sectionId, { ...given, due: "2026-10-14T16:00" }),
  );
  const handOutId = handOuts[0]!.id;
  await sql`
    update assignment set parts = parts || ${sql.json([aPart(PART, "files")] as never)}
    where id = (select assignment_id from hand_out where id = ${handOutId})`;
  const bytes = Buffer.alloc(FILE, "rain ");
  const pieceIds: string[] = [];
  for (const student of school.students) {
    const [piece] = await sql<{ id: string }[]>`
      select id from piece where hand_out_id = ${handOutId} and student_id = ${student.id}`;
    pieceIds.push(piece!.id);
    // Now, and not when the class was: the application beside it drops uploads that were begun long ago.
    await putFile(sql, student, piece!.id, PART, "rain.txt", bytes, new Date());
    await asPerson(sql, student).change(NOW, (call) =>
      handIn(call, piece!.id, { doc: doc("It rained on the pier. ".repeat(40)) }, 0),
    );
    await asPerson(sql, school.owner).change(NOW, (call) =>
      saveFeedback(call, piece!.id, { overall: "Well seen.", score: "8", picks: {} }, 0),
    );
  }
  return { owner: school.owner, handOutId, pieceIds };
}

async function fetchZip(teacher: ReturnType<typeof asPerson>, handOutId: string) {
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  const began = performance.now();
  const response = await teacher.read(NOW, (call) => giveWholeHandOut(call, handOutId));
  let [bytes, most] = [0, before];
  for (const reader = response.body!.getReader(); ;) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.length;
    most = Math.max(most, process.memoryUsage().rss);
  }
  return { bytes, seconds: (performance.now() - began) / 1000, grew: most - before };
}

/** What a press on "Next" works out, with 60 marks. */
function checklistLine(): string {
  const marks = Array.from({ length: 60 }, (_, n): AnsweredMark => ({
    ...wholeMark({
      ...{ id: String(n), kind: "note", nature: "request", start: n, end: n + 1, quote: "x" },
      ...{ body: "?", replacement: "" },
    }),
    ...{ round: 1, at: { start: n, end: n + 1 }, gone: false },
    ...{ request: n % 2 ? "open" : "done", decision: null, messages: [] },
  }));
  const began = performance.now();
  for (let n = 0; n < 1000; n += 1) {
    const tasks = checklist(marks, () => true);
    nextTask(tasks, "0");
    leftOf(tasks);
  }
  return `- The checklist of 60 marks: ${(performance.now() - began).toFixed(0)} µs for each press.`;
}
