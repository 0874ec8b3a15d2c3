import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Readable } from "node:stream";
import { uuidv7 } from "uuidv7";
import { aPart } from "../../src/core/handouts/parts";
import { NotFound } from "../../src/core/refusals";
import { storeBlob } from "../../src/server/blobs/blobs";
import type { Person } from "../../src/server/call";
import { handOut } from "../../src/server/handouts/handOut";
import { addItem, lookAtArrived, removeItem } from "../../src/server/items/items";
import { dropLooseFiles } from "../../src/server/items/looseFiles";
import { enqueue, runNext, type Handlers } from "../../src/server/jobs/jobs";
import { handIn } from "../../src/server/pieces/moves";
import { TransferStore } from "../../src/server/transfers/store";
import { beginTransfer, readUsed, requireOwnTransfer } from "../../src/server/transfers/transfers";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { putFile } from "../support/files";
import { planFor } from "../support/handOut";

/** Whose is it, and whose turn: uploads, work in the background, and what is kept. */
const PART = "00000000-0000-4000-8000-0000000000f1";
const NOW = new Date();
const later = (days: number) => new Date(NOW.getTime() + days * 86_400_000);
let database: TestDatabase;
let school: SmallSchool;
let pieces: string[];

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql);
  const plan = planFor(school.sectionId, {
    title: "Data",
    instructions: doc("Send."),
    expects: "work",
    points: "10",
    opens: null,
    due: later(1).toISOString().slice(0, 16),
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = [aPart(PART, "files")];
  const { handOuts } = await asPerson(database.sql, school.owner).change(NOW, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  const rows = await database.sql<
    { id: string; studentId: string }[]
  >`select id, student_id from piece where hand_out_id = ${handOuts[0]!.id}`;
  pieces = school.students.map((s) => rows.find((r) => r.studentId === s.id)!.id);
});
afterAll(() => database?.drop());

describe("an upload's id belongs to who began it", () => {
  const begin = (who: Person, n: number, id: string, size = 5) =>
    asPerson(database.sql, who).change(NOW, (call) =>
      beginTransfer(call, id, { pieceId: pieces[n]!, partId: PART, name: "a.txt", size }),
    );
  test("another student cannot begin, look at or write into it, with their own piece or with its owner's", async () => {
    const [ada, ben] = [school.students[0]!, school.students[1]!];
    const id = uuidv7();
    await begin(ada, 0, id);
    // Asked again after a lost answer it is the same one.
    await begin(ada, 0, id);
    await expect(begin(ben, 1, id)).rejects.toThrow(NotFound);
    await expect(begin(ben, 0, id)).rejects.toThrow(NotFound);
    await expect(requireOwnTransfer(database.sql, ben, id)).rejects.toThrow(NotFound);
    // Nor is it another file of its owner's.
    await expect(begin(ada, 0, id, 7)).rejects.toThrow(NotFound);
    const [row] =
      await database.sql`select owner_id, piece_id, size from transfer where id = ${id}`;
    expect(row).toMatchObject({ ownerId: ada.id, pieceId: pieces[0] });
    expect(Number(row!.size)).toBe(5);
  });
  test("what is begun anew under its id while it is looked into is not what was looked into", async () => {
    const ada = school.students[0]!;
    const store = new TransferStore(database.sql, () => NOW);
    const send = async (id: string, bytes: string) => {
      await begin(ada, 0, id, bytes.length);
      await store.write(Readable.from([Buffer.from(bytes)]), id, 0);
    };
    const id = uuidv7();
    await send(id, "first");
    const item = { itemId: uuidv7(), transferId: id, partId: PART, replaces: null };
    const student = asPerson(database.sql, ada);
    const ready = await student.read(NOW, (call) => lookAtArrived(call, pieces[0]!, item));
    await store.remove(id);
    await send(id, "other");
    await expect(
      student.change(NOW, (call) => addItem(call, pieces[0]!, item, ready)),
    ).rejects.toThrow(NotFound);
  });
});

describe("work in the background takes turns", () => {
  const done: string[] = [];
  const note =
    (kind: string): Handlers[string] =>
    (_sql, { name }) => {
      done.push(`${kind} ${name}`);
      return Promise.resolve();
    };
  const handlers: Handlers = {
    sound: note("sound"),
    rendition: note("rendition"),
    mail: note("mail"),
  };
  const ask = (kind: string, name: string, owner: Person) =>
    database.sql.begin((tx) =>
      enqueue(tx, { kind, key: name, payload: { name }, ownerId: owner.id }, NOW),
    );
  test("a voice goes before files that were sent earlier, and one person's files one at a time", async () => {
    const [ada, ben] = [school.students[0]!, school.students[1]!];
    for (const n of [1, 2, 3, 4]) await ask("rendition", `ada ${n}`, ada);
    await ask("rendition", "ben", ben);
    await ask("sound", "teacher", school.owner);
    // A worker that does not come to an end holds the first of Ada's.
    let release = () => {};
    const held = new Promise<void>((resolve) => (release = resolve));
    let begun = () => {};
    const running = new Promise<void>((resolve) => (begun = resolve));
    await runNext(database.sql, handlers, NOW);
    const slow = runNext(database.sql, { ...handlers, rendition: () => (begun(), held) }, NOW);
    await running;
    await runNext(database.sql, handlers, NOW);
    expect(done).toEqual(["sound teacher", "rendition ben"]);
    // Nothing else of hers is begun while one runs.
    expect(await runNext(database.sql, handlers, NOW)).toBe(false);
    release();
    await slow;
    while (await runNext(database.sql, handlers, NOW));
    expect(done.slice(2)).toEqual(["rendition ada 2", "rendition ada 3", "rendition ada 4"]);
  });
  test("one worker leaves to the others what may take long", async () => {
    await ask("rendition", "film", school.students[0]!);
    expect(await runNext(database.sql, handlers, NOW, "long")).toBe(false);
    await ask("mail", "letter", school.owner);
    expect(await runNext(database.sql, handlers, NOW, "long")).toBe(true);
    expect(await runNext(database.sql, handlers, NOW)).toBe(true);
  });
  test("who has very many waiting is told to wait, before a byte of the next is sent", async () => {
    const who = school.students[2]!;
    for (let n = 0; n < 60; n += 1) await ask("rendition", `many ${n}`, who);
    const begin = () =>
      asPerson(database.sql, who).change(NOW, (call) =>
        beginTransfer(call, uuidv7(), { pieceId: pieces[2]!, partId: PART, name: "a", size: 1 }),
      );
    await expect(begin()).rejects.toThrow("still being made ready");
    await database.sql`delete from job`;
    await expect(begin()).resolves.toBeUndefined();
  });
});

describe("what is kept", () => {
  test("counts as long as it is kept, and goes when nothing holds it; what was handed in stays", async () => {
    const who = school.students[1]!;
    const student = asPerson(database.sql, who);
    const put = (name: string, words: string) =>
      putFile(database.sql, who, pieces[1]!, PART, name, Buffer.from(words), NOW);
    const stays = await put("stays.txt", "It rained for two hours.");
    const goes = await put("goes.txt", "It did not rain at all.");
    const used = async () => (await readUsed(database.sql, who, pieces[1]!)).piece;
    const both = await used();
    await student.change(NOW, (call) => removeItem(call, pieces[1]!, goes.id, true));
    // Taken out, it can be put back, and counts.
    expect(await used()).toBe(both);
    await student.change(NOW, (call) =>
      handIn(call, pieces[1]!, { doc: doc("Here is my data.") }, 0),
    );
    await database.sql.begin((tx) => storeBlob(tx, Buffer.from("loose"), "text/plain", NOW));
    const ids = async () =>
      (await database.sql<{ id: string }[]>`select id from item`).map((row) => row.id);
    await dropLooseFiles(database.sql, later(1));
    expect(await ids()).toContain(goes.id);
    await dropLooseFiles(database.sql, later(3));
    expect(await ids()).not.toContain(goes.id);
    expect(await used()).toBe(both - goes.size);
    const gone = await dropLooseFiles(database.sql, later(40));
    expect(gone).toBeGreaterThanOrEqual(2);
    // Replaced in a later round it leaves the piece its room again, and counts among all of the student's.
    await database.sql`update item set removed_at = ${NOW} where id = ${stays.id}`;
    const room = await readUsed(database.sql, who, pieces[1]!);
    expect(room.piece).toBe(0);
    expect(room.student).toBeGreaterThanOrEqual(stays.size);
    // A version has it, so it is there for good.
    await dropLooseFiles(database.sql, later(400));
    expect(await ids()).toContain(stays.id);
    const [blob] = await database.sql<
      { n: number }[]
    >`select count(*)::int as n from blob_chunk where sha256 = ${Buffer.from(stays.sha256, "hex")}`;
    expect(blob!.n).toBe(1);
  });
  test("a stored file never changes, and one that is named cannot go", async () => {
    await expect(database.sql`update blob set media_type = 'text/html'`).rejects.toThrow(
      /append-only/,
    );
    await expect(database.sql`delete from blob`).rejects.toThrow(/foreign key/);
  });
});
