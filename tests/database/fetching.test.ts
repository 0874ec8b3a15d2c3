import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { unzipSync } from "fflate";
import { codeOf } from "../../src/core/fetching/folders";
import { aPart } from "../../src/core/handouts/parts";
import { NotFound } from "../../src/core/refusals";
import type { Person } from "../../src/server/call";
import { crc32, matchFiles } from "../../src/core/fetching/comeBack";
import { folderCodes, giveWholeHandOut } from "../../src/server/fetching/wholeHandOut";
import { handBack } from "../../src/server/handingBack/handBack";
import { saveFeedback } from "../../src/server/marking/draft";
import { handIn } from "../../src/server/pieces/moves";
import {
  answerOn,
  asPerson,
  doc,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { putFile } from "../support/files";
import { handOutSimply } from "../support/handOut";

/** Everything of a hand-out as one zip. */
const PART = "00000000-0000-4000-8000-0000000000f1";
const NOW = new Date("2026-10-14T15:00:00Z");
let database: TestDatabase;
let school: SmallSchool;
let handOutId: string;
let pieces: string[];

beforeAll(async () => {
  database = await testDatabase();
  answerOn(database);
  const { sql } = database;
  school = await smallSchool(sql, 3);
  const owner = asPerson(sql, school.owner);
  const given = { title: "Rain / log", instructions: doc("Write."), points: "10" };
  const { handOuts } = await owner.change(NOW, (call) =>
    handOutSimply(call, school.sectionId, { ...given, due: "2026-10-14T16:00" }),
  );
  handOutId = handOuts[0]!.id;
  await sql`update assignment set parts = parts || ${sql.json([aPart(PART, "files")] as never)}`;
  const rows = await sql<{ id: string }[]>`
    select piece.id from piece join person on person.id = piece.student_id order by sort_name`;
  pieces = rows.map((row) => row.id);
  for (const name of ["rain.txt", "Rain.txt"])
    await putFile(
      sql,
      school.students[0]!,
      pieces[0]!,
      PART,
      name,
      Buffer.from(`${name}: 12 mm`),
      NOW,
    );
  await asPerson(sql, school.students[0]!).change(NOW, (call) =>
    handIn(call, pieces[0]!, { doc: doc("It rained on the pier.") }, 0),
  );
  await asPerson(sql, school.students[1]!).change(NOW, (call) =>
    handIn(call, pieces[1]!, { doc: doc("It did not rain.") }, 0),
  );
  await owner.change(NOW, (call) =>
    saveFeedback(call, pieces[0]!, { overall: "Good.", score: "8", picks: {} }, 0),
  );
  await owner.change(NOW, (call) => handBack(call, pieces[0]!, { outcome: "final", due: null }));
});
afterAll(() => endAnswers(database));

async function fetched(who: Person): Promise<Record<string, string>> {
  const response = await asPerson(database.sql, who).read(NOW, (call) =>
    giveWholeHandOut(call, handOutId),
  );
  const zip = unzipSync(new Uint8Array(await response.arrayBuffer()));
  const text = new TextDecoder();
  return Object.fromEntries(Object.entries(zip).map(([name, bytes]) => [name, text.decode(bytes)]));
}

describe("everything as one zip", () => {
  test("a folder per student: words, files as they were under names that cannot clash, and last the table", async () => {
    const zip = await fetched(school.owner);
    const folder = (n: number) => `Rain log, Gannet/Student ${n + 1} (${codeOf(pieces[n]!)})`;
    expect(Object.keys(zip)).toEqual([
      `${folder(0)}/writing.docx`,
      `${folder(0)}/writing.html`,
      `${folder(0)}/rain.txt`,
      `${folder(0)}/Rain 2.txt`,
      `${folder(1)}/writing.docx`,
      `${folder(1)}/writing.html`,
      "Rain log, Gannet/contents.json",
      "Rain log, Gannet/who is who.csv",
    ]);
    const contents = JSON.parse(zip["Rain log, Gannet/contents.json"]!) as Record<string, number>;
    const path = `${folder(0)}/rain.txt`;
    expect(contents[path]).toBe(crc32(Buffer.from(zip[path]!)));
    const known = await asPerson(database.sql, school.owner).read(NOW, (call) =>
      folderCodes(call, handOutId),
    );
    const came = [{ path, crc: contents[path]! + 1 }];
    expect(matchFiles(came, known, contents)).toMatchObject([
      { pieceId: pieces[0], student: "Student 1", unchanged: false },
    ]);
    expect(zip[`${folder(0)}/Rain 2.txt`]).toBe("Rain.txt: 12 mm");
    expect(zip[`${folder(1)}/writing.html`]).toContain("<p>It did not rain.</p>");
    const lines = zip["Rain log, Gannet/who is who.csv"]!.trim().split("\r\n");
    expect(lines[1]).toContain("Student 1,handed back");
    expect(lines[1]).toContain("8 / 10,2");
    expect(lines[3]).toContain("Student 3,not opened");
  });

  test("with names hidden it goes under the numbers, and nothing in it says whose it is", async () => {
    await database.sql`update hand_out set anonymous = true`;
    const zip = await fetched(school.co);
    await database.sql`update hand_out set anonymous = false`;
    const all = JSON.stringify(zip);
    expect(all).not.toContain("Student 2");
    expect(Object.keys(zip).filter((name) => /\/Piece \d{3} /.test(name)).length).toBeGreaterThan(
      0,
    );
  });

  test("a fetch that is cut holds nothing any more, and lacks the table", async () => {
    const response = await asPerson(database.sql, school.owner).read(NOW, (call) =>
      giveWholeHandOut(call, handOutId),
    );
    const reader = response.body!.getReader();
    await reader.read();
    await reader.cancel();
    expect((await database.sql`select 1`).length).toBe(1);
    expect(response.headers.get("accept-ranges")).toBe("none");
  });

  test("for the section's teachers alone", async () => {
    for (const who of [school.students[0]!, school.guardian, school.stranger, school.office])
      await expect(fetched(who)).rejects.toBeInstanceOf(NotFound);
  });
});
