import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { Conflict, Invalid, Refused } from "../../src/core/refusals";
import { wallToInstant } from "../../src/core/time/zone";
import { addComment, changeComment, readBank } from "../../src/server/comments/bank";
import { saveFeedback } from "../../src/server/marking/draft";
import { copyMark } from "../../src/server/marking/copyMark";
import { addMark, changeMark, deleteMark } from "../../src/server/marking/marks";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { versionShown } from "../../src/server/marking/desk/versions";
import { handBack, takeFeedbackBack } from "../../src/server/handingBack/handBack";
import { rule } from "../../src/server/marking/rulings";
import { ledgerView } from "../../src/server/ledger/view";
import { handOutSheet } from "../../src/server/overview/sheet";
import { todayView } from "../../src/server/overview/today";
import { weekView } from "../../src/server/weekSheet/week";
import { workView } from "../../src/server/overview/work";
import { answerMark, sendMessage } from "../../src/server/pieces/answers";
import { handIn, openPiece, saveWork, takeBack } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply, type Simple } from "../support/handOut";

/** One piece all the way round, through the use-cases, on a clock of its own. */
let database: TestDatabase;
let school: SmallSchool;
let owner: ReturnType<typeof asPerson>;
let student: ReturnType<typeof asPerson>;
const at = (wall: string) => wallToInstant(wall, "America/Halifax").at;
const given: Simple = {
  title: "Rainfall log",
  instructions: doc("Seven days."),
  expects: "work",
  points: "20",
  opens: null,
  due: "2026-10-16T16:00",
  closes: null,
  promised: null,
  graceMinutes: 10,
  mayTakeBack: true,
};

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql);
  owner = asPerson(database.sql, school.owner);
  student = asPerson(database.sql, school.students[0]!);
});
afterAll(() => database?.drop());

async function newPiece(more: Partial<Simple> = {}): Promise<string> {
  const { handOuts } = await owner.change(at("2026-10-09T08:15"), (call) =>
    handOutSimply(call, school.sectionId, { ...given, ...more }),
  );
  const handOutId = handOuts[0]!.id;
  const [piece] = await database.sql<
    { id: string }[]
  >`select id from piece where hand_out_id = ${handOutId} and student_id = ${school.students[0]!.id}`;
  return piece!.id;
}
const mark = (versionId: string, start: number, end: number, more: object = {}) => ({
  id: crypto.randomUUID(),
  kind: "note" as const,
  nature: "request" as const,
  start,
  end,
  body: "Which unit?",
  replacement: "",
  versionId,
  commentId: null,
  ...more,
});

describe("the circle", () => {
  test("hand out, write, hand in late, mark, revise, settle, score", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-15T18:00"), (call) => openPiece(call, pieceId));
    const saved = await student.change(at("2026-10-15T18:30"), (call) =>
      saveWork(call, pieceId, { doc: doc("It was 12 on Monday.") }, 0),
    );
    const receipt = await student.change(at("2026-10-17T18:00"), (call) =>
      handIn(call, pieceId, { doc: doc("It was 12 on Monday.", "We was wet.") }, saved.revision),
    );
    expect(receipt).toMatchObject({
      version: 1,
      round: 1,
      late: true,
      lateness: "1 day 2 h late",
      words: 8,
    });
    expect(receipt.code).toMatch(/^[0-9A-Z]{4}-[0-9A-Z]{4}$/);

    const desk = await owner.read(at("2026-10-18T19:00"), (call) => deskPiece(call, pieceId));
    const text = "It was 12 on Monday.\nWe was wet.";
    const request = mark(desk.versionId!, text.indexOf("12"), text.indexOf("12") + 2);
    const edit = mark(desk.versionId!, text.indexOf("was wet"), text.indexOf("was wet") + 3, {
      kind: "replace",
      nature: "remark",
      body: "",
      replacement: "were",
    });
    for (const m of [request, edit])
      await owner.change(at("2026-10-18T19:05"), (call) => addMark(call, pieceId, m));
    await owner.change(at("2026-10-18T19:06"), (call) =>
      saveFeedback(call, pieceId, { overall: "Nearly.", score: "", picks: {} }, 0),
    );

    // Until it is handed back the student's page knows nothing of it, and taking back is over.
    const before = await student.read(at("2026-10-18T20:00"), (call) => pieceView(call, pieceId));
    expect(before.marks).toEqual([]);
    await expect(
      student.change(at("2026-10-18T20:00"), (call) => takeBack(call, pieceId)),
    ).rejects.toThrow(Refused);

    await owner.change(at("2026-10-18T21:00"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-23T16:00" }),
    );
    const work = await student.read(at("2026-10-19T08:00"), (call) => workView(call));
    expect(work.needsYou).toMatchObject([{ pieceId, openRequests: 1, due: "Fri 23 Oct, 16:00" }]);
    const back = await student.read(at("2026-10-19T08:00"), (call) => pieceView(call, pieceId));
    expect(back.marks.map((m) => [m.kind, m.quote, m.request])).toEqual([
      ["note", "12", "open"],
      ["replace", "was", null],
    ]);

    await student.change(at("2026-10-20T18:00"), (call) =>
      answerMark(call, pieceId, request.id, { request: "done", decision: null }),
    );
    await student.change(at("2026-10-20T18:01"), (call) =>
      answerMark(call, pieceId, edit.id, { request: null, decision: "accepted" }),
    );
    await student.change(at("2026-10-20T18:02"), (call) =>
      sendMessage(call, pieceId, { body: "Millimetres!", markId: request.id }),
    );
    await student.change(at("2026-10-20T18:03"), (call) =>
      saveWork(call, pieceId, { doc: doc("First: it was 12 mm on Monday.", "We were wet.") }, 2),
    );
    const second = await student.change(at("2026-10-20T18:04"), (call) =>
      handIn(call, pieceId, { doc: doc("First: it was 12 mm on Monday.", "We were wet.") }, 3),
    );
    expect(second).toMatchObject({ version: 2, round: 2, late: false });

    const again = await owner.read(at("2026-10-21T19:00"), (call) => deskPiece(call, pieceId));
    const newText = "First: it was 12 mm on Monday.\nWe were wet.";
    const earlier = again.earlier.find((m) => m.id === request.id)!;
    expect(newText.slice(earlier.at!.start, earlier.at!.end)).toBe("12");
    expect(earlier).toMatchObject({
      request: "done",
      ruling: null,
      messages: [{ body: "Millimetres!" }],
    });
    expect(again.comparison).toMatchObject({ wordsInserted: 3, wordsDeleted: 1 });
    const ruled = await owner.change(at("2026-10-21T19:01"), (call) =>
      rule(call, pieceId, request.id, { ruling: "settled" }),
    );
    expect(ruled.earlier.find((m) => m.id === request.id)!.ruling).toBe("settled");
    await owner.change(at("2026-10-21T19:02"), (call) =>
      saveFeedback(call, pieceId, { overall: "Done.", score: "85%", picks: {} }, 0),
    );
    await owner.change(at("2026-10-21T19:03"), (call) =>
      handBack(call, pieceId, { outcome: "final", due: null }),
    );

    const ledger = await owner.read(at("2026-10-21T20:00"), (call) =>
      ledgerView(call, school.sectionId),
    );
    expect(ledger.rows[0]!.cells[0]).toMatchObject({
      score: "17",
      moon: { state: "handed_back", round: 2, late: false },
    });
    const final = await student.read(at("2026-10-21T20:00"), (call) => pieceView(call, pieceId));
    expect(final).toMatchObject({
      openRequests: 0,
      locked: expect.stringContaining("for good"),
      cameBack: [{ outcome: "revise" }, { outcome: "final", score: "17 / 20" }],
    });
    await expect(
      student.change(at("2026-10-22T08:00"), (call) =>
        saveWork(call, pieceId, { doc: doc("x") }, 4),
      ),
    ).rejects.toThrow(Refused);
  });
});

describe("nothing is overwritten in silence", () => {
  test("a saving on an older copy is a conflict that brings the newer one", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-10T10:00"), (call) =>
      saveWork(call, pieceId, { doc: doc("first") }, 0),
    );
    const late = student.change(at("2026-10-10T10:01"), (call) =>
      saveWork(call, pieceId, { doc: doc("other tab") }, 0),
    );
    await expect(late).rejects.toThrow(Conflict);
    await late.catch((error: Conflict) =>
      expect(error.theirs).toMatchObject({ doc: doc("first"), revision: 1 }),
    );
    await expect(
      student.change(at("2026-10-10T10:02"), (call) =>
        handIn(call, pieceId, { doc: doc("other tab") }, 0),
      ),
    ).rejects.toThrow(Conflict);
  });
  test("a saving whose answer was lost comes again and is no conflict", async () => {
    const pieceId = await newPiece();
    const save = () =>
      student.change(at("2026-10-10T10:00"), (call) =>
        saveWork(call, pieceId, { doc: doc("on the ferry") }, 0),
      );
    expect(await save()).toMatchObject({ revision: 1 });
    expect(await save()).toMatchObject({ revision: 2 });
  });
  test("of 20 savings at once on one revision one is kept, and the others are told", async () => {
    const pieceId = await newPiece();
    const results = await Promise.allSettled(
      Array.from({ length: 20 }, (_, n) =>
        student.change(at("2026-10-10T10:00"), (call) =>
          saveWork(call, pieceId, { doc: doc(`tab ${n}`) }, 0),
        ),
      ),
    );
    expect(results.filter((r) => r.status === "fulfilled")).toHaveLength(1);
  });
  test("a note on the wrong student's piece goes to the right one, on the whole of it", async () => {
    const [wrong, right] = [await newPiece(), await newPiece()];
    for (const pieceId of [wrong, right])
      await student.change(at("2026-10-10T10:00"), (call) =>
        handIn(call, pieceId, { doc: doc("The tide rose.") }, 0),
      );
    const { versionId } = await owner.read(at("2026-10-10T11:00"), (call) =>
      deskPiece(call, wrong),
    );
    const note = mark(versionId!, 4, 8);
    await owner.change(at("2026-10-10T11:00"), (call) => addMark(call, wrong, note));
    const copies = { to: right, id: crypto.randomUUID() };
    const copy = () =>
      owner.change(at("2026-10-10T11:01"), (call) =>
        copyMark(call, { pieceId: wrong, markId: note.id }, copies),
      );
    await copy();
    // Asked twice, it is there once.
    expect(await copy()).toMatchObject({
      body: note.body,
      nature: "request",
      by: school.owner.name,
    });
    await owner.change(at("2026-10-10T11:02"), (call) => deleteMark(call, wrong, note.id));
    const of = (pieceId: string) =>
      owner.read(at("2026-10-10T11:03"), (call) => deskPiece(call, pieceId));
    expect((await of(wrong)).marks).toEqual([]);
    expect((await of(right)).marks).toMatchObject([
      { body: note.body, place: { on: "whole", itemId: null } },
    ]);
    await expect(copy()).rejects.toThrow();
    const edit = mark(versionId!, 4, 8, { kind: "delete", nature: "remark", body: "" });
    await owner.change(at("2026-10-10T11:04"), (call) => addMark(call, wrong, edit));
    await expect(
      owner.change(at("2026-10-10T11:05"), (call) =>
        copyMark(call, { pieceId: wrong, markId: edit.id }, { to: right, id: crypto.randomUUID() }),
      ),
    ).rejects.toThrow("Only a note can be moved");
  });
  test("two teachers on one note, and on one mark", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-10T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose.") }, 0),
    );
    const co = asPerson(database.sql, school.co);
    await owner.change(at("2026-10-10T11:00"), (call) =>
      saveFeedback(call, pieceId, { overall: "Mine.", score: "", picks: {} }, 0),
    );
    await expect(
      co.change(at("2026-10-10T11:01"), (call) =>
        saveFeedback(call, pieceId, { overall: "Also mine.", score: "", picks: {} }, 0),
      ),
    ).rejects.toMatchObject({ theirs: { overall: "Mine." } });
    const { versionId } = await owner.read(at("2026-10-10T11:02"), (call) =>
      deskPiece(call, pieceId),
    );
    const made = await owner.change(at("2026-10-10T11:02"), (call) =>
      addMark(call, pieceId, mark(versionId!, 4, 8)),
    );
    await co.change(at("2026-10-10T11:03"), (call) =>
      changeMark(
        call,
        { pieceId: pieceId, markId: made.id },
        { nature: "remark", body: "Good.", replacement: "" },
        made.revision,
      ),
    );
    await expect(
      owner.change(at("2026-10-10T11:04"), (call) =>
        changeMark(
          call,
          { pieceId: pieceId, markId: made.id },
          { nature: "remark", body: "Bad.", replacement: "" },
          made.revision,
        ),
      ),
    ).rejects.toThrow(Conflict);
  });
  test("a score that cannot be read is refused with a sentence, and the draft stays", async () => {
    const pieceId = await newPiece();
    await owner.change(at("2026-10-17T11:00"), (call) =>
      saveFeedback(call, pieceId, { overall: "Note.", score: "7", picks: {} }, 0),
    );
    await expect(
      owner.change(at("2026-10-17T11:01"), (call) =>
        saveFeedback(call, pieceId, { overall: "Note, longer.", score: "eight", picks: {} }, 1),
      ),
    ).rejects.toThrow(Invalid);
    expect(
      await owner.read(at("2026-10-17T11:02"), (call) => deskPiece(call, pieceId)),
    ).toMatchObject({ overall: "Note.", scoreTyped: "7" });
  });
});

describe("moves and changes of mind", () => {
  test("take back and hand in again keep every version", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("one") }, 0),
    );
    await student.change(at("2026-10-12T10:05"), (call) => takeBack(call, pieceId));
    await student.change(at("2026-10-12T10:10"), (call) =>
      handIn(call, pieceId, { doc: doc("two") }, 1),
    );
    const view = await student.read(at("2026-10-12T11:00"), (call) => pieceView(call, pieceId));
    expect(view.receipts.map((r) => r.version)).toEqual([2, 1]);
    expect(view.moon).toMatchObject({ state: "handed_in", round: 1 });
  });
  test("the same handed in again and again is kept once, and read everywhere as it was", async () => {
    const pieceId = await newPiece();
    for (let n = 0; n < 5; n += 1) {
      const words = n === 3 ? "another text" : "the same text";
      await student.change(at(`2026-10-12T10:0${n}`), (call) =>
        handIn(call, pieceId, { doc: doc(words) }, n),
      );
      if (n < 4) await student.change(at(`2026-10-12T10:0${n}`), (call) => takeBack(call, pieceId));
    }
    const kept = await database.sql<{ id: string; own: boolean; text: string | null }[]>`
      select id, same_as is null as own, text from version where piece_id = ${pieceId} order by number`;
    expect(kept.map((v) => v.own)).toEqual([true, false, false, true, false]);
    expect(kept.map((v) => v.text !== null)).toEqual([true, false, false, true, false]);
    const last = kept.at(-1)!.id;
    const shown = await owner.read(at("2026-10-12T11:00"), (call) => deskPiece(call, pieceId));
    expect(shown).toMatchObject({ versionId: last, words: 3, doc: doc("the same text") });
    // A mark stands on the words of the version it was put on, wherever they are kept.
    const note = await owner.change(at("2026-10-12T11:05"), (call) =>
      addMark(call, pieceId, mark(last, 4, 8)),
    );
    expect(note.quote).toBe("same");
    const [first] = kept;
    const earlier = await owner.read(at("2026-10-12T11:10"), (call) =>
      versionShown(call, pieceId, first!.id),
    );
    expect(earlier).toMatchObject({ doc: doc("the same text") });
  });
  test("what was handed back can be taken back while nobody has begun to revise", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose.") }, 0),
    );
    await owner.change(at("2026-10-12T11:00"), (call) =>
      saveFeedback(call, pieceId, { overall: "Oops, wrong student.", score: "3", picks: {} }, 0),
    );
    await owner.change(at("2026-10-12T11:01"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-20T16:00" }),
    );
    await owner.change(at("2026-10-12T11:02"), (call) => takeFeedbackBack(call, pieceId));
    const view = await student.read(at("2026-10-12T11:03"), (call) => pieceView(call, pieceId));
    expect(JSON.stringify(view)).not.toContain("Oops");
    expect(view).toMatchObject({
      moon: { state: "handed_in" },
      cameBack: [],
      rounds: [{ number: 1 }],
    });
    const ledger = await owner.read(at("2026-10-12T11:03"), (call) =>
      ledgerView(call, school.sectionId),
    );
    expect(ledger.rows[0]!.cells.find((c) => c?.pieceId === pieceId)).toMatchObject({
      score: null,
    });
  });
  test("handing back the same again is refused; a changed word goes out", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose.") }, 0),
    );
    await owner.change(at("2026-10-12T11:00"), (call) =>
      saveFeedback(call, pieceId, { overall: "Good.", score: "15", picks: {} }, 0),
    );
    const final = { outcome: "final" as const, due: null };
    await owner.change(at("2026-10-12T11:01"), (call) => handBack(call, pieceId, final));
    await expect(
      owner.change(at("2026-10-12T11:02"), (call) => handBack(call, pieceId, final)),
    ).rejects.toThrow("Nothing has changed");
    await owner.change(at("2026-10-12T11:03"), (call) =>
      saveFeedback(call, pieceId, { overall: "Very good.", score: "16", picks: {} }, 1),
    );
    await owner.change(at("2026-10-12T11:04"), (call) => handBack(call, pieceId, final));
    const scores = await database.sql<
      { points: string }[]
    >`select points from score where piece_id = ${pieceId} order by set_at`;
    expect(scores.map((s) => Number(s.points))).toEqual([15, 16]);
    // The student is told that it rose, and by whom; why is for teachers.
    await owner.change(at("2026-10-12T11:05"), (call) =>
      saveFeedback(
        call,
        pieceId,
        { overall: "Very good.", score: "14", picks: {}, reason: "Two units were wrong." },
        2,
      ),
    );
    await owner.change(at("2026-10-12T11:06"), (call) => handBack(call, pieceId, final));
    const told = await student.read(at("2026-10-12T11:07"), (call) => pieceView(call, pieceId));
    expect(told.scoreChanges.map((c) => [c.words, c.rose, c.by, c.reason])).toEqual([
      ["The score rose from 15 / 20 to 16 / 20", true, "Odalys Brandt", ""],
      ["The score fell from 16 / 20 to 14 / 20", false, "Odalys Brandt", ""],
    ]);
    const kept = await owner.read(at("2026-10-12T11:07"), (call) => deskPiece(call, pieceId));
    expect(kept.scoreChanges.map((c) => c.reason)).toEqual(["", "Two units were wrong."]);
  });
  test("a request whose words are gone can be asked again on what stands there now", async () => {
    const pieceId = await newPiece();
    const words = "We went out. The tide rose by a lot. Then we went home.";
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc(words) }, 0),
    );
    const { versionId } = await owner.read(at("2026-10-12T11:00"), (call) =>
      deskPiece(call, pieceId),
    );
    const first = await owner.change(at("2026-10-12T11:00"), (call) =>
      addMark(call, pieceId, mark(versionId!, 27, 35)),
    );
    await owner.change(at("2026-10-12T11:01"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-20T16:00" }),
    );
    await student.change(at("2026-10-13T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc(words.replace("by a lot", "3.2 metres")) }, 1),
    );
    const desk = await owner.read(at("2026-10-14T11:00"), (call) => deskPiece(call, pieceId));
    const [gone] = desk.earlier;
    expect(gone).toMatchObject({ gone: true, lost: { left: "We went out. The tide rose " } });
    const again = await owner.change(at("2026-10-14T11:00"), (call) =>
      rule(call, pieceId, first.id, { ruling: "again", likely: true }),
    );
    expect(again.marks).toMatchObject([{ quote: "3.2 metres", againOf: first.id }]);
  });
  test("asking again puts the request on its words in the new text, and undoing takes it off", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose by 3.") }, 0),
    );
    const { versionId } = await owner.read(at("2026-10-12T11:00"), (call) =>
      deskPiece(call, pieceId),
    );
    const first = await owner.change(at("2026-10-12T11:00"), (call) =>
      addMark(call, pieceId, mark(versionId!, 17, 18)),
    );
    await owner.change(at("2026-10-12T11:01"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-20T16:00" }),
    );
    await student.change(at("2026-10-13T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("In the morning the tide rose by 3.") }, 1),
    );
    const again = await owner.change(at("2026-10-14T11:00"), (call) =>
      rule(call, pieceId, first.id, { ruling: "again" }),
    );
    expect(again.marks).toMatchObject([
      { quote: "3", body: "Which unit?", againOf: first.id, nature: "request" },
    ]);
    const none = await owner.change(at("2026-10-14T11:01"), (call) =>
      rule(call, pieceId, first.id, { ruling: null }),
    );
    expect(none.marks).toEqual([]);
    await owner.change(at("2026-10-14T11:02"), (call) =>
      rule(call, pieceId, first.id, { ruling: "again" }),
    );
    await owner.change(at("2026-10-14T11:03"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-22T16:00" }),
    );
    const view = await student.read(at("2026-10-15T11:00"), (call) => pieceView(call, pieceId));
    expect(view.openRequests).toBe(1);
    expect(view.marks.map((m) => [m.round, m.request])).toEqual([[2, "open"]]);
  });
  test("a deleted mark can be brought back, and the mark of an earlier round stays as it was", async () => {
    const pieceId = await newPiece();
    await student.change(at("2026-10-12T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose.") }, 0),
    );
    const { versionId } = await owner.read(at("2026-10-12T11:00"), (call) =>
      deskPiece(call, pieceId),
    );
    const made = await owner.change(at("2026-10-12T11:00"), (call) =>
      addMark(call, pieceId, mark(versionId!, 4, 8)),
    );
    await owner.change(at("2026-10-12T11:01"), (call) => deleteMark(call, pieceId, made.id));
    expect(
      (await owner.read(at("2026-10-12T11:02"), (call) => deskPiece(call, pieceId))).marks,
    ).toEqual([]);
    await owner.change(at("2026-10-12T11:03"), (call) =>
      changeMark(call, { pieceId, markId: made.id }, made, made.revision + 1),
    );
    await owner.change(at("2026-10-12T11:04"), (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-10-20T16:00" }),
    );
    await student.change(at("2026-10-13T10:00"), (call) =>
      handIn(call, pieceId, { doc: doc("The tide rose again.") }, 1),
    );
    await expect(
      owner.change(at("2026-10-14T10:00"), (call) => deleteMark(call, pieceId, made.id)),
    ).rejects.toThrow("earlier round");
  });
});

describe("who gets a piece", () => {
  test("those on the roster that day: not who left before, nor who joins later", async () => {
    const [left, later] = [school.students[1]!, school.students[2]!];
    await database.sql`update enrolment set left_on = '2026-10-09' where student_id = ${left.id}`;
    await database.sql`update enrolment set joined_on = '2026-10-10' where student_id = ${later.id}`;
    const { handOuts } = await owner.change(at("2026-10-09T23:30"), (call) =>
      handOutSimply(call, school.sectionId, { ...given, title: "Roster" }),
    );
    const handOutId = handOuts[0]!.id;
    const pieces = await database.sql<
      { studentId: string }[]
    >`select student_id from piece where hand_out_id = ${handOutId}`;
    expect(pieces.map((p) => p.studentId)).toEqual([school.students[0]!.id]);
    await database.sql`update enrolment set left_on = null, joined_on = '2026-09-08' where student_id in (${left.id}, ${later.id})`;
  });
  test("dates out of order are refused by field, and nothing is handed out", async () => {
    const [before] = await database.sql<{ n: number }[]>`select count(*)::int as n from hand_out`;
    const wrong = {
      ...given,
      closes: "2026-10-15T16:00",
      promised: "2026-10-01T16:00",
      points: "0",
    };
    await expect(
      owner.change(at("2026-10-09T08:15"), (call) => handOutSimply(call, school.sectionId, wrong)),
    ).rejects.toMatchObject({
      fields: { "rows[0].closes": expect.any(String), "rows[0].promised": expect.any(String) },
    });
    await expect(
      owner.change(at("2026-10-09T08:15"), (call) =>
        handOutSimply(call, school.sectionId, { ...given, points: "0" }),
      ),
    ).rejects.toMatchObject({ fields: { "counting.points": expect.any(String) } });
    const [after] = await database.sql<{ n: number }[]>`select count(*)::int as n from hand_out`;
    expect(after).toEqual(before);
  });
});

describe("lists agree with the rules", () => {
  test("before it opens a hand-out is nowhere for students", async () => {
    const pieceId = await newPiece({ title: "Later", opens: "2026-10-14T08:00" });
    const seen = (wall: string) =>
      student
        .read(at(wall), (call) => workView(call))
        .then((view) => JSON.stringify(view).includes("Later"));
    expect(await seen("2026-10-14T07:59")).toBe(false);
    await expect(
      student.read(at("2026-10-14T07:59"), (call) => pieceView(call, pieceId)),
    ).rejects.toThrow("nothing here");
    expect(await seen("2026-10-14T08:00")).toBe(true);
  });
  test("Today, the sheet and the guardian's week count the same pieces", async () => {
    const now = at("2026-10-25T12:00");
    const today = await owner.read(now, (call) => todayView(call));
    const total = today.handOuts.reduce((sum, h) => sum + h.counts.of, 0);
    const [count] = await database.sql<{ n: number }[]>`select count(*)::int as n from piece`;
    expect(total).toBe(count!.n);
    const sheet = await owner.read(now, (call) => handOutSheet(call, today.handOuts[0]!.id));
    expect(sheet.lines.length).toBe(today.handOuts[0]!.counts.of);
    const week = await asPerson(database.sql, school.guardian).read(now, (call) => weekView(call));
    expect(week.children.map((c) => c.name)).toEqual(["Student 1"]);
    expect(JSON.stringify(week)).not.toMatch(/Which unit|tide rose|Student 2/);
  });
});

describe("the bank", () => {
  test("a shorthand belongs to one comment, a key moves to the newest, and both are said", async () => {
    const now = at("2026-10-12T10:00");
    const base = {
      text: "Which unit?",
      shorthand: "unit",
      nature: "request" as const,
      favourite: 1,
    };
    const first = await owner.change(now, (call) => addComment(call, base));
    await expect(
      owner.change(now, (call) => addComment(call, { ...base, shorthand: "UNIT" })),
    ).rejects.toThrow(Invalid);
    await owner.change(now, (call) => addComment(call, { ...base, shorthand: "u2" }));
    const bank = await owner.read(now, (call) => readBank(call));
    expect(bank.map((c) => [c.shorthand, c.favourite])).toEqual([
      ["u2", 1],
      ["unit", null],
    ]);
    await expect(
      owner.change(now, (call) => changeComment(call, first.id, base, 1)),
    ).rejects.toThrow(Conflict);
  });
});
