import { randomBytes } from "node:crypto";
import { uuidv7 } from "uuidv7";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { WebVTTParser } from "webvtt-parser";
import { sayWords } from "../../src/core/speech/heard";
import type { DraftMark } from "../../src/core/views/deskViews";
import type { Person } from "../../src/server/call";
import { addComment, readBank } from "../../src/server/comments/bank";
import { annotationsIn, annotationsOut } from "../../src/server/marking/annotations";
import { deskPiece } from "../../src/server/marking/desk/deskPiece";
import { addMark, deleteMark } from "../../src/server/marking/marks";
import { handBack, takeFeedbackBack } from "../../src/server/handingBack/handBack";
import { runAll } from "../../src/server/jobs/jobs";
import { HANDLERS } from "../../src/server/background/handlers";
import { rule } from "../../src/server/marking/rulings";
import { handIn } from "../../src/server/pieces/moves";
import { pieceView } from "../../src/server/pieces/pieceView";
import { sendMessage } from "../../src/server/pieces/answers";
import { readAloud } from "../../src/server/speech/aloud";
import {
  addOwnClip,
  addPieceClip,
  lookAtClip,
  dropLooseClips,
  noteHeard,
  readClip,
} from "../../src/server/speech/clips";
import { giveClip } from "../../src/server/speech/giveClip";
import { bringWords, changeWords, giveVtt } from "../../src/server/speech/words";
import {
  asPerson,
  doc,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import { handOutSimply, planFor } from "../support/handOut";
import { handOut } from "../../src/server/handouts/handOut";
import { integratedLoudness } from "../support/loudness";
import { bent, samplesOf, spoken, wordErrorRate } from "../support/voices";

/** Voices: kept, levelled, heard, corrected, and heard by those of the piece alone. */
let database: TestDatabase;
let school: SmallSchool;
let pieceId: string;
let otherPiece: string;
const now = new Date("2026-11-02T15:00:00Z");
const DAY = 86_400_000;
const as = (who: Person) => asPerson(database.sql, who);
const owner = () => as(school.owner);
const student = () => as(school.students[0]!);
const work = (at = now) => runAll(database.sql, HANDLERS, at);
const SAID = "Please read the second paragraph again. It repeats what the first one says.";
const NAMED = SAID.replace("again.", "again, Quillon.");
const none = new Request("http://x.example/");
const bytesOf = async (answer: Response) => Buffer.from(await answer.arrayBuffer());
const keep = (bytes: Buffer) =>
  owner().change(now, (call) =>
    lookAtClip(call, pieceId, { bytes }).then((voice) => addPieceClip(call, pieceId, voice)),
  );
const versionOf = async (id = pieceId) =>
  (await owner().read(now, (call) => deskPiece(call, id))).versionId!;
const note = (versionId: string, more: object) => ({
  id: uuidv7(),
  kind: "note" as const,
  nature: "remark" as const,
  start: 0,
  end: 3,
  body: "",
  replacement: "",
  commentId: null,
  versionId,
  ...more,
});

beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql, 3);
  await owner().change(now, (call) =>
    handOutSimply(call, school.sectionId, {
      title: "Log",
      instructions: doc("Write down the tide table of Quillon Point."),
    }),
  );
  const pieces = await Promise.all(
    school.students.slice(0, 2).map(async (s) => {
      const [piece] = await database.sql<
        { id: string }[]
      >`select id from piece where student_id = ${s.id}`;
      await as(s).change(now, (call) => handIn(call, piece!.id, { doc: doc("The rain fell.") }, 0));
      return piece!.id;
    }),
  );
  [pieceId, otherPiece] = pieces as [string, string];
});
afterAll(() => database?.drop());

describe("a recording becomes a clip", () => {
  test.each([
    ["as a browser records it", {}],
    ["very quiet, Ogg", { filters: "volume=-30dB", format: "ogg" as const }],
    [
      "clipped, 48 kHz, two channels, WAV",
      { filters: "volume=30dB", rate: 48_000, channels: 2, format: "wav" as const },
    ],
    ["44.1 kHz, two channels, MP4", { rate: 44_100, channels: 2, format: "mp4" as const }],
  ])(
    "%s: as long as its source within 100 ms, and -16 LUFS within 1 LU by our own measurement of BS.1770",
    async (_name, how) => {
      const source = await spoken(SAID, "slt");
      const given = await bent(source, how);
      const clip = await keep(given);
      expect(clip).toMatchObject({ state: "being made", shows: "words", mine: true, heard: true });
      await database.sql`delete from job where kind = 'transcript'`;
      await work();
      await database.sql`delete from job where kind = 'transcript'`;
      const made = await owner().read(now, (call) => readClip(call, clip.id));
      expect(made.state).toBe("ready");
      expect(made.peaks!.length).toBeGreaterThan(20);
      expect(Math.max(...made.peaks!)).toBe(100);
      const seconds = (await samplesOf(source)).length / 48_000;
      const samples = await samplesOf(
        await bytesOf(await owner().read(now, (call) => giveClip(call, clip.id, "levelled", none))),
      );
      expect(Math.abs(samples.length / 48_000 - seconds)).toBeLessThan(0.1);
      expect(Math.abs(made.seconds - seconds)).toBeLessThan(0.1);
      expect(Math.abs(integratedLoudness(samples) + 16)).toBeLessThan(1);
      // The peak of the samples lies at or under the true peak, which is measured on four times as many.
      expect(
        20 * Math.log10(samples.reduce((most, s) => Math.max(most, Math.abs(s)), 0)),
      ).toBeLessThanOrEqual(-1);
    },
  );
  test("our measurement of loudness agrees with EBU Tech 3341's first two cases: a sine of 1 kHz at -23 and -33 dBFS (in both of two channels there; in one here it is 3 LU less)", () => {
    const sine = (db: number) =>
      Float64Array.from(
        { length: 48_000 * 5 },
        (_, n) => 10 ** (db / 20) * Math.sin((2 * Math.PI * 1000 * n) / 48_000),
      );
    expect(integratedLoudness(sine(-23))).toBeCloseTo(-26.01, 1);
    expect(integratedLoudness(sine(-33))).toBeCloseTo(-36.01, 1);
  });
  test("silence stays silence, is kept, and says that no words were heard", async () => {
    const clip = await keep(await bent(await spoken(SAID), { filters: "volume=0" }));
    await work();
    expect(await owner().read(now, (call) => readClip(call, clip.id))).toMatchObject({
      state: "ready",
      transcript: { state: "none", why: "No words were heard in this.", words: [] },
    });
  });
  test("what is no voice is refused in words: nothing, less than a moment, other files that say they are sound, a film, too long", async () => {
    await expect(keep(Buffer.alloc(0))).rejects.toThrow("0 bytes");
    await expect(
      keep(await bent(await spoken(SAID), { filters: "atrim=end=0.1" })),
    ).rejects.toThrow("shorter than a third of a second");
    await expect(keep(Buffer.from("RIFF pretends to be sound, and is a text"))).rejects.toThrow(
      "no sound in this file",
    );
    await expect(
      keep(Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), randomBytes(4000)])),
    ).rejects.toThrow("no sound in this file");
    await expect(
      keep(await bent(await spoken(SAID), { filters: "apad=whole_dur=70" })),
    ).rejects.toThrow("60 s is the most here");
    // The owner may set another limit, for teachers and for students apart.
    await database.sql`update section set reply_seconds = 10`;
    await expect(
      student().change(now, async (call) =>
        lookAtClip(call, pieceId, {
          bytes: await bent(await spoken(SAID), { filters: "apad=whole_dur=20" }),
        }).then((voice) => addPieceClip(call, pieceId, voice)),
      ),
    ).rejects.toThrow("10 s is the most here");
    await database.sql`update section set reply_seconds = 60`;
  });
  test("any part of it can be asked for", async () => {
    const clip = await keep(await spoken("Well done."));
    const whole = await bytesOf(
      await owner().read(now, (call) => giveClip(call, clip.id, "", none)),
    );
    const part = await owner().read(now, (call) =>
      giveClip(
        call,
        clip.id,
        "",
        new Request("http://x.example/", { headers: { range: "bytes=100-299" } }),
      ),
    );
    expect([part.status, part.headers.get("content-range")]).toEqual([
      206,
      `bytes 100-299/${whole.length}`,
    ]);
    expect((await bytesOf(part)).equals(whole.subarray(100, 300))).toBe(true);
  });
  test("the same recording is stored once, and works once", async () => {
    const bytes = await spoken("Said once.");
    await keep(bytes);
    await keep(bytes);
    await work();
    const [{ sounds, clips }] =
      (await database.sql`select count(distinct sound.sha256)::int as sounds, count(*)::int as clips from sound join clip using (sha256) where raw = ${bytes}`) as unknown as [
        { sounds: number; clips: number },
      ];
    expect([sounds, clips]).toEqual([1, 2]);
  });
});

describe("what is said is written down", () => {
  let clipId: string;
  test("a draft with times and doubts; told the class's words it knows the names", async () => {
    await database.sql`update person set name = 'Quillon Marrow', called = 'Quillon' where id = ${school.students[0]!.id}`;
    await owner().change(now, (call) =>
      addComment(call, {
        text: "Please read the second paragraph again, {name}.",
        shorthand: "",
        nature: "remark",
        favourite: null,
      }),
    );
    const clip = await keep(await spoken(NAMED, "slt"));
    clipId = clip.id;
    await work();
    const { transcript, seconds } = await owner().read(now, (call) => readClip(call, clipId));
    expect(transcript).toMatchObject({ state: "made", by: null });
    expect(sayWords(transcript.words)).toContain("Quillon");
    expect(wordErrorRate(NAMED, sayWords(transcript.words))).toBeLessThan(0.35);
    expect(transcript.words[0]!.word).toMatch(/^\p{Lu}/u);
    transcript.words.forEach((w, n) => {
      expect(w.end).toBeGreaterThan(w.start);
      expect(w.start).toBeGreaterThanOrEqual(transcript.words[n - 1]?.start ?? 0);
      expect(w.end).toBeLessThanOrEqual(seconds + 0.1);
    });
  }, 60_000);
  test("corrected by the teacher, it says by whom; two windows do not overwrite each other", async () => {
    const before = await owner().read(now, (call) => readClip(call, clipId));
    const after = await owner().change(now, (call) =>
      changeWords(call, clipId, { shows: "words", title: "", text: SAID }, before.revision),
    );
    expect([sayWords(after.transcript.words), after.transcript.by]).toEqual([
      SAID,
      school.owner.name,
    ]);
    expect(after.transcript.words.every((w) => w.sure === 1)).toBe(true);
    await expect(
      as(school.co).change(now, (call) =>
        changeWords(call, clipId, { shows: "nothing", title: "", text: null }, before.revision),
      ),
    ).rejects.toMatchObject({ theirs: { revision: after.revision } });
    await expect(
      owner().change(now, (call) =>
        changeWords(call, clipId, { shows: "title", title: " ", text: null }, after.revision),
      ),
    ).rejects.toMatchObject({ fields: { title: "Write the title." } });
    const titled = await owner().change(now, (call) =>
      changeWords(call, clipId, { shows: "title", title: "next step", text: null }, after.revision),
    );
    expect([titled.shows, titled.title, sayWords(titled.transcript.words)]).toEqual([
      "title",
      "next step",
      SAID,
    ]);
  });
  test("out as WebVTT that the parser of webvtt-parser takes without a fault, and in again", async () => {
    const file = await (await owner().read(now, (call) => giveVtt(call, clipId))).text();
    const { cues, errors } = new WebVTTParser().parse(file, "captions");
    expect(errors).toEqual([]);
    expect(cues.map((c) => c.text).join(" ")).toBe(SAID);
    const brought = await owner().change(now, (call) =>
      bringWords(call, clipId, file.replace("second", "third")),
    );
    expect(sayWords(brought.transcript.words)).toBe(SAID.replace("second", "third"));
    expect(brought.transcript.words[0]!.start).toBeCloseTo(cues[0]!.startTime, 1);
    await expect(
      owner().change(now, (call) => bringWords(call, clipId, "no file")),
    ).rejects.toThrow("does not begin with WEBVTT");
    await expect(
      owner().change(now, (call) =>
        bringWords(call, clipId, "WEBVTT\n\n10:00.000 --> 10:01.000\nlate"),
      ),
    ).rejects.toThrow("belongs to another recording");
  });
  test("where no recogniser is, everything else works and the page says why", async () => {
    process.env.ALMANAC_RECOGNISER = "none";
    const clip = await keep(await spoken("Nobody writes this down."));
    await work();
    delete process.env.ALMANAC_RECOGNISER;
    const made = await owner().read(now, (call) => readClip(call, clip.id));
    expect(made).toMatchObject({ state: "ready", transcript: { state: "none", words: [] } });
    expect(made.transcript.why).toContain("switched off");
    const own = await owner().change(now, (call) =>
      changeWords(
        call,
        clip.id,
        { shows: "words", title: "", text: "I write it myself." },
        made.revision,
      ),
    );
    expect(own.transcript).toMatchObject({ state: "made", by: school.owner.name });
  });
});

describe("whose voice it is", () => {
  const hears = (who: Person, clipId: string) =>
    as(who)
      .read(now, (call) => giveClip(call, clipId, "", none))
      .then(
        () => true,
        () => false,
      );
  const all = async (clipId: string) =>
    Promise.all(
      [
        school.owner,
        school.co,
        school.students[0]!,
        school.students[1]!,
        school.stranger,
        school.guardian,
        school.office,
      ].map((who) => hears(who, clipId)),
    );
  const [yes, no] = [true, false];
  let markId: string;
  let clipId: string;

  test("a note can be a voice alone; the student hears it when it is handed back, and not when it is taken back", async () => {
    clipId = (await keep(await spoken("Look at the gauge."))).id;
    expect(await all(clipId)).toEqual([yes, yes, no, no, no, no, no]);
    const versionId = await versionOf();
    markId = uuidv7();
    await expect(
      owner().change(now, (call) => addMark(call, pieceId, note(versionId, { id: markId }))),
    ).rejects.toMatchObject({ fields: { body: expect.stringContaining("say something") } });
    const mark = await owner().change(now, (call) =>
      addMark(call, pieceId, note(versionId, { id: markId, clipId })),
    );
    expect(mark).toMatchObject({ body: "", clipId });
    expect(
      (await owner().read(now, (call) => deskPiece(call, pieceId))).clips.map((c) => c.id),
    ).toEqual([clipId]);
    expect((await student().read(now, (call) => pieceView(call, pieceId))).clips).toEqual([]);
    await owner().change(now, (call) =>
      handBack(call, pieceId, { outcome: "revise", due: "2026-11-12T16:00" }),
    );
    expect(await all(clipId)).toEqual([yes, yes, yes, no, no, no, no]);
    const seen = await student().read(now, (call) => pieceView(call, pieceId));
    expect([seen.marks[0]!.clipId, seen.clips[0]]).toEqual([
      clipId,
      expect.objectContaining({
        heard: false,
        mine: false,
        mayChange: false,
        heardByStudent: null,
      }),
    ]);
    await student().change(now, (call) => noteHeard(call, clipId));
    expect(
      (await owner().read(now, (call) => readClip(call, clipId))).heardByStudent,
    ).not.toBeNull();
    expect((await student().read(now, (call) => readClip(call, clipId))).heard).toBe(true);
    await expect(
      student().change(now, (call) =>
        changeWords(call, clipId, { shows: "nothing", title: "", text: null }, 1),
      ),
    ).rejects.toThrow();
    await owner().change(now, (call) => takeFeedbackBack(call, pieceId));
    expect(await all(clipId)).toEqual([yes, yes, no, no, no, no, no]);
  });
  test("a clip of one piece cannot be put on another, nor a student's on a mark of the teacher's by the student", async () => {
    const versionId = await versionOf(otherPiece);
    await expect(
      owner().change(now, (call) => addMark(call, otherPiece, note(versionId, { clipId }))),
    ).rejects.toThrow();
    await expect(
      student().change(now, (call) =>
        sendMessage(call, pieceId, { body: "", markId: null, clipId }),
      ),
    ).rejects.toThrow();
  });
  test("voices go out with the marks and come in again once; one of another piece is only named", async () => {
    const versionId = await versionOf(otherPiece);
    const clip = await owner().change(now, async (call) =>
      lookAtClip(call, otherPiece, { bytes: await spoken("Look here once more.") }).then((voice) =>
        addPieceClip(call, otherPiece, voice),
      ),
    );
    const made = await owner().change(now, (call) =>
      addMark(call, otherPiece, note(versionId, { clipId: clip.id })),
    );
    const out = await (await owner().read(now, (call) => annotationsOut(call, otherPiece))).text();
    expect(out).toContain(`"urn:uuid:${clip.id}"`);
    expect(
      await owner().change(now, (call) => annotationsIn(call, otherPiece, { text: out })),
    ).toEqual({ added: 0, faults: [] });
    await owner().change(now, (call) => deleteMark(call, otherPiece, made.id));
    expect(
      await owner().change(now, (call) => annotationsIn(call, otherPiece, { text: out })),
    ).toEqual({ added: 1, faults: [] });
    const marksOf = async (id: string) =>
      (await owner().read(now, (call) => deskPiece(call, id))).marks;
    expect(await marksOf(otherPiece)).toMatchObject([{ body: "", clipId: clip.id }]);
    const elsewhere = out.replaceAll(versionId, await versionOf(pieceId));
    expect(
      await owner().change(now, (call) => annotationsIn(call, pieceId, { text: elsewhere })),
    ).toEqual({ added: 1, faults: [] });
    // Brought in once more, nothing is there twice.
    expect(
      await owner().change(now, (call) => annotationsIn(call, pieceId, { text: elsewhere })),
    ).toEqual({ added: 0, faults: [] });
    const brought = (await marksOf(pieceId)).find((m) => m.id !== markId)!;
    expect(brought).toMatchObject({ body: "(a voice that is not in this piece)", clipId: null });
    for (const [id, mark] of [
      [otherPiece, (await marksOf(otherPiece))[0]!],
      [pieceId, brought],
    ] as const)
      await owner().change(now, (call) => deleteMark(call, id, mark.id));
  });
  test("a student's reply is the student's alone until it is sent", async () => {
    const reply = await student().change(now, async (call) =>
      lookAtClip(call, pieceId, { bytes: await spoken("I will do it tomorrow.") }).then((voice) =>
        addPieceClip(call, pieceId, voice),
      ),
    );
    expect(await all(reply.id)).toEqual([no, no, yes, no, no, no, no]);
    await expect(
      student().change(now, (call) => sendMessage(call, pieceId, { body: "", markId: null })),
    ).rejects.toMatchObject({ fields: { body: expect.any(String) } });
    const sent = await student().change(now, (call) =>
      sendMessage(call, pieceId, { body: "", markId: null, clipId: reply.id }),
    );
    expect(sent.clipId).toBe(reply.id);
    expect(await all(reply.id)).toEqual([yes, yes, yes, no, no, no, no]);
  });
  test("a comment of the bank carries a voice; on a piece it is the piece's own, and the sound is stored once", async () => {
    const own = await owner().change(now, async (call) =>
      lookAtClip(call, null, { bytes: await spoken("Say where you stood.") }).then((voice) =>
        addOwnClip(call, voice),
      ),
    );
    expect(await all(own.id)).toEqual([yes, no, no, no, no, no, no]);
    const comment = await owner().change(now, (call) =>
      addComment(call, {
        text: "Say where you stood.",
        shorthand: "where",
        nature: "remark",
        favourite: null,
        clipId: own.id,
        share: "school",
      }),
    );
    expect(comment.clipId).toBe(own.id);
    // Shared with the school's teachers, and with them its voice.
    expect(await all(own.id)).toEqual([yes, yes, no, no, yes, no, no]);
    const versionId = await versionOf(otherPiece);
    const marks: DraftMark[] = [];
    for (let n = 0; n < 3; n += 1)
      marks.push(
        await owner().change(now, (call) =>
          addMark(call, otherPiece, note(versionId, { body: comment.text, commentId: comment.id })),
        ),
      );
    expect(new Set([own.id, ...marks.map((m) => m.clipId)]).size).toBe(4);
    const [{ sounds }] =
      (await database.sql`select count(distinct sha256)::int as sounds from clip where id in ${database.sql([own.id, ...marks.map((m) => m.clipId!)])}`) as unknown as [
        { sounds: number },
      ];
    expect(sounds).toBe(1);
    // Kept in a bank from a note: a copy of the teacher's own.
    const kept = await as(school.co).change(now, (call) =>
      addComment(call, {
        text: "Where did you stand?",
        shorthand: "",
        nature: "remark",
        favourite: null,
        clipId: marks[0]!.clipId,
      }),
    );
    expect(kept.clipId).not.toBe(marks[0]!.clipId);
    expect((await as(school.co).read(now, readBank)).find((c) => c.id === kept.id)!.clipId).toBe(
      kept.clipId,
    );
    await expect(
      as(school.stranger).change(now, (call) =>
        addComment(call, {
          text: "x y",
          shorthand: "",
          nature: "remark",
          favourite: null,
          clipId: marks[0]!.clipId,
        }),
      ),
    ).rejects.toThrow();
  });
  test("a spoken request that is asked again keeps its voice in the next round", async () => {
    const clip = await owner().change(now, async (call) =>
      lookAtClip(call, otherPiece, { bytes: await spoken("Measure it once more.") }).then((voice) =>
        addPieceClip(call, otherPiece, voice),
      ),
    );
    const asked = uuidv7();
    const first = await versionOf(otherPiece);
    await owner().change(now, (call) =>
      addMark(call, otherPiece, note(first, { id: asked, nature: "request", clipId: clip.id })),
    );
    await owner().change(now, (call) =>
      handBack(call, otherPiece, { outcome: "revise", due: "2026-11-12T16:00" }),
    );
    await as(school.students[1]!).change(now, (call) =>
      handIn(call, otherPiece, { doc: doc("The rain fell again.") }, 1),
    );
    const { marks } = await owner().change(now, (call) =>
      rule(call, otherPiece, asked, { ruling: "again" }),
    );
    expect(marks.find((m) => m.againOf === asked)).toMatchObject({ body: "", clipId: clip.id });
  });
  test("spoken instructions are for those who have the task, once it opens", async () => {
    const own = await owner().change(now, async (call) =>
      lookAtClip(call, null, { bytes: await spoken("Read the scale at eye height.") }).then(
        (voice) => addOwnClip(call, voice),
      ),
    );
    const plan = planFor(school.sectionId, {
      title: "Spoken",
      instructions: doc("Read."),
      expects: "work",
      points: "8",
      opens: "2026-11-05T08:00",
      due: "2026-11-10T16:00",
      closes: null,
      promised: null,
      graceMinutes: 0,
      mayTakeBack: true,
    });
    plan.work.clipId = own.id;
    await owner().change(now, (call) => handOut(call, { plan, draftId: null, pastIsMeant: false }));
    expect(await all(own.id)).toEqual([yes, yes, no, no, no, no, no]);
    await database.sql`update hand_out set opens_at = ${now} where opens_at > ${now}`;
    expect(await all(own.id)).toEqual([yes, yes, yes, yes, no, no, no]);
    const [piece] = await database.sql<
      { id: string }[]
    >`select piece.id from piece join hand_out on hand_out.id = hand_out_id join assignment on assignment.id = assignment_id where title = 'Spoken' and student_id = ${school.students[0]!.id}`;
    const view = await student().read(now, (call) => pieceView(call, piece!.id));
    expect([view.voice, view.clips.map((c) => c.id)]).toEqual([own.id, [own.id]]);
  });
  test("what nothing holds goes, with its sound; what is handed back, sent, kept or given stays", async () => {
    const loose = await keep(await spoken("Said and never used."));
    await owner().change(now, (call) => deleteMark(call, pieceId, markId));
    const before = await database.sql`select id from clip`;
    await dropLooseClips(database.sql, new Date(now.getTime() + DAY / 2));
    expect((await database.sql`select id from clip`).length).toBe(before.length);
    await dropLooseClips(database.sql, new Date(now.getTime() + 2 * DAY));
    expect(await database.sql`select id from clip where id = ${loose.id}`).toHaveLength(0);
    expect(
      await database.sql`select sha256 from sound where not exists (select from clip where clip.sha256 = sound.sha256)`,
    ).toHaveLength(0);
    // Deleted from the draft, but it had been handed back: the history keeps it.
    await dropLooseClips(database.sql, new Date(now.getTime() + 40 * DAY));
    expect(await database.sql`select id from clip where id = ${clipId}`).toHaveLength(1);
    expect(
      await database.sql`select clip.id from message join clip on clip.id = clip_id`,
    ).not.toHaveLength(0);
  });
});

test("a text is read aloud to who sends it, and spoken once", async () => {
  const hear = (text: string) =>
    student()
      .read(now, (call) => readAloud(call, text, none))
      .then(bytesOf);
  const first = await hear("Well seen.  Now count again.");
  expect((await samplesOf(first)).length / 48_000).toBeGreaterThan(1);
  expect((await hear("Well seen. Now count again.")).equals(first)).toBe(true);
  expect(await database.sql`select key from aloud`).toHaveLength(1);
  // A longer one is spoken in the background, one person's at a time, and is there when it is asked for again.
  const long = "Look at the second table once more. ".repeat(12);
  const ask = () => student().read(now, (call) => readAloud(call, long, none));
  expect((await ask()).status).toBe(202);
  expect((await ask()).status).toBe(202);
  await runAll(database.sql, HANDLERS, new Date(now.getTime() + 1000));
  const spoken = await ask();
  expect(spoken.status).toBe(200);
  expect((await samplesOf(await bytesOf(spoken))).length / 48_000).toBeGreaterThan(10);
  // Another person learns nothing from how soon it comes: theirs is spoken anew.
  expect((await owner().read(now, (call) => readAloud(call, long, none))).status).toBe(202);
  await expect(hear("…")).rejects.toThrow("nothing in this text");
});
