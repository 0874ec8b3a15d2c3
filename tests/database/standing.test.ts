import fc from "fast-check";
import { SHOWS, type Shows } from "../../src/core/ledger/shows";
import { PIECE_FLAGS, type PieceFlag } from "../../src/core/pieces/flags";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { PIECE_STATES, type PieceState } from "../../src/core/pieces/life";
import {
  cameLate,
  closesFor,
  dueOf,
  hasAsked,
  isAwaited,
  isDrafted,
  isMissing,
  pileOf,
  type StandingFacts,
} from "../../src/core/pieces/standing";
import { readPiece } from "../../src/server/life/queries";
import { moonOf, type StandingRow } from "../../src/server/life/standings";
import {
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";

/**
 * The view `piece_standing` says of every piece what the core says: over thousands of made pieces in all states,
 * rounds and memberships, with their moments on and around every limit.
 */
let database: TestDatabase;
let school: SmallSchool;
const NOW = new Date("2026-11-02T15:00:00Z");
const PIECES = 3000;
const PER_HAND_OUT = 100;
const MINUTE = 60_000;

/** Minutes from now at which something happened or will: on a limit, a millisecond beside it, or far away. */
const moment = fc.constantFrom(-20_000, -1440, -61, -10, -1, 0, 1, 10, 59, 1440, 20_000);
const around = fc.constantFrom(-1, 0, 1);
const at = (minutes: number, ms = 0) => new Date(NOW.getTime() + minutes * MINUTE + ms);

type HandOut = {
  due: Date;
  closes: Date | null;
  grace: number;
  expects: "work" | "nothing";
  shows: Shows;
  withdrawn: boolean;
};
const handOut = fc
  .tuple(moment, fc.option(fc.constantFrom(0, 1, 60, 1440, 20_000)))
  .chain(([due, open]) =>
    fc.record({
      due: fc.constant(at(due)),
      closes: fc.constant(open === null ? null : at(due + open)),
      grace: fc.constantFrom(0, 1, 10, 60),
      expects: fc.constantFrom("work" as const, "work" as const, "nothing" as const),
      shows: fc.constantFrom(...SHOWS),
      withdrawn: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
    }),
  );
type Made = {
  state: PieceState;
  round: number;
  excused: boolean;
  flag: PieceFlag | null;
  left: boolean;
  removed: boolean;
  own: Date | null;
  roundDue: Date | null;
  revisionDue: Date | null;
  feedbackBegun: boolean;
  /** Hand-ins as minutes and milliseconds from the time they were due, each of a round up to the present one. */
  versions: { round: number; minutes: number; ms: number; accepted: boolean }[];
  words: { by: "student" | "teacher"; at: Date }[];
  handedBackAt: Date | null;
};
const made: fc.Arbitrary<Made> = fc
  .record({
    state: fc.constantFrom(...PIECE_STATES),
    round: fc.integer({ min: 1, max: 3 }),
    excused: fc.boolean(),
    flag: fc.option(fc.constantFrom(...PIECE_FLAGS)),
    left: fc.integer({ min: 0, max: 4 }).map((n) => n === 0),
    removed: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
    own: fc.option(moment.map((m) => at(m))),
    roundDue: fc.option(moment.map((m) => at(m))),
    revisionDue: fc.option(moment.map((m) => at(m))),
    feedbackBegun: fc.boolean(),
    versions: fc.array(
      fc.record({
        round: fc.integer({ min: 1, max: 3 }),
        minutes: fc.constantFrom(-1440, 0, 1, 10, 60, 1440),
        ms: around,
        accepted: fc.boolean(),
      }),
      { maxLength: 3 },
    ),
    words: fc.array(
      fc.record({
        by: fc.constantFrom("student" as const, "teacher" as const),
        at: moment.map((m) => at(m)),
      }),
      { maxLength: 2 },
    ),
    handedBackAt: fc.option(moment.map((m) => at(m))),
  })
  .map(inItsRound);

/** As the database holds them: nothing in is round one, reworking a later one; later rounds have a due time. */
function inItsRound(piece: Made): Made {
  const nothingIn = piece.state === "not_opened" || piece.state === "started";
  const least = piece.state === "reworking" ? 2 : 1;
  const round = nothingIn ? 1 : Math.max(least, piece.round);
  const roundDue = round === 1 ? null : (piece.roundDue ?? at(10));
  // Of two words of one moment none is the last.
  const words = piece.words.map((w, n) => ({ ...w, at: new Date(w.at.getTime() + n * 7) }));
  return { ...piece, round, roundDue, revisionDue: piece.revisionDue ?? at(59), words };
}

type Kept = { id: string; facts: StandingFacts; out: HandOut; piece: Made; ruling: Date };
const kept: Kept[] = [];

/** What the core is told of a made piece. */
function factsOf(out: HandOut, piece: Made): { facts: StandingFacts; ruling: Date } {
  const { state, round, excused, flag, left, feedbackBegun } = piece;
  const revision = state === "to_revise" ? piece.revisionDue : null;
  const times = { round: piece.roundDue, own: piece.own, handOut: out.due };
  const ruling = dueOf({ ...times, revision: null });
  const versions = versionsOf(piece, ruling);
  const newest = versions.at(-1);
  const last = [...piece.words].sort((a, b) => a.at.getTime() - b.at.getTime()).at(-1);
  const facts: StandingFacts = {
    ...{ state, round, excused, flag, left, feedbackBegun, expects: out.expects },
    shows: out.shows,
    due: dueOf({ ...times, revision }),
    graceMinutes: out.grace,
    newest: newest ? { round: newest.round, countedAt: newest.countedAt } : null,
    studentsWordAt: last?.by === "student" ? last.at : null,
    handedBackAt: piece.handedBackAt,
  };
  return { facts, ruling };
}

/** Hand-ins in their order, with the device's time where a teacher accepted it. */
function versionsOf(piece: Made, due: Date) {
  return piece.versions
    .filter((v) => v.round <= piece.round)
    .sort((a, b) => a.round - b.round)
    .map((v) => {
      const handedInAt = new Date(due.getTime() + v.minutes * MINUTE + v.ms);
      const pressedAt = new Date(handedInAt.getTime() - 30 * MINUTE);
      return { ...v, handedInAt, pressedAt, countedAt: v.accepted ? pressedAt : handedInAt };
    });
}

beforeAll(async () => {
  database = await testDatabase();
  const { sql } = database;
  school = await smallSchool(sql, 1);
  const teacher = school.owner.id;
  const students = await makeStudents();
  const [course] = await sql<{ id: string }[]>`select id from course`;
  const outs = fc.sample(handOut, { numRuns: PIECES / PER_HAND_OUT, seed: 11 });
  const pieces = fc.sample(made, { numRuns: PIECES, seed: 7 });
  for (const [n, out] of outs.entries()) {
    const [assignment] = await sql<{ id: string }[]>`
      insert into assignment (id, course_id, created_by, title, instructions, expects, parts, points_possible, created_at)
      values (gen_random_uuid(), ${course!.id}, ${teacher}, ${`Work ${n}`}, '{}', ${out.expects},
        ${sql.json(out.expects === "work" ? [{ kind: "writing" }] : [])}, 10, ${NOW})
      returning id`;
    const [row] = await sql<{ id: string }[]>`
      insert into hand_out (id, assignment_id, section_id, created_by, created_at, opens_at, due_at, closes_at, grace_minutes, shows, shows_from, shows_by, withdrawn_at, withdrawn_by)
      values (gen_random_uuid(), ${assignment!.id}, ${school.sectionId}, ${teacher}, ${NOW}, ${at(-40_000)}, ${out.due}, ${out.closes}, ${out.grace}, ${out.shows}, ${out.shows === "date" ? NOW : null}, ${teacher}, ${out.withdrawn ? NOW : null}, ${out.withdrawn ? teacher : null})
      returning id`;
    const own = pieces.slice(n * PER_HAND_OUT, (n + 1) * PER_HAND_OUT);
    for (const [k, piece] of own.entries()) await makePiece(row!.id, students[k]!, out, piece);
  }
}, 240_000);
afterAll(() => database?.drop());

async function makeStudents(): Promise<string[]> {
  const rows = await database.sql<{ id: string }[]>`
    insert into person (id, school_id, kind, name, called, sort_name, school_name, password_hash)
    select gen_random_uuid(), ${school.owner.schoolId}, 'student', 'Student ' || n, 'S' || n, 'Student ' || n, 'student' || n, ''
    from generate_series(1, ${PER_HAND_OUT}) n
    returning id`;
  return rows.map((row) => row.id);
}

async function makePiece(handOutId: string, studentId: string, out: HandOut, piece: Made) {
  const { sql } = database;
  const { facts, ruling } = factsOf(out, piece);
  const teacher = school.owner.id;
  const [{ id }] = (await sql`
    insert into piece (id, hand_out_id, student_id, state, round, excused, flag, left_at, removed_at, own_due_at, own_due_from)
    values (gen_random_uuid(), ${handOutId}, ${studentId}, ${piece.state}, ${piece.round}, ${piece.excused}, ${piece.flag}, ${piece.left ? NOW : null},
      ${piece.removed ? NOW : null}, ${piece.own}, ${piece.own ? "teacher" : null})
    returning id`) as unknown as [{ id: string }];
  await makeRounds(id, piece);
  if (piece.feedbackBegun)
    await sql`insert into feedback (piece_id, round_number, begun_by, changed_by, changed_at, revision) values (${id}, ${piece.round}, ${teacher}, ${teacher}, ${NOW}, 0)`;
  for (const [n, v] of versionsOf(piece, ruling).entries()) {
    const [version] = await sql<{ id: string }[]>`
      insert into version (id, piece_id, round_number, number, doc, text, words, sha256, receipt, due_at, grace_minutes, handed_in_at, answers, pressed_at, files)
      select new.id, ${id}, ${v.round}, ${n + 1}, '{}', '', 0, sha256(new.id::text::bytea), left(new.id::text, 12) || ${n}, ${out.due}, 0, ${v.handedInAt}, '{}', ${v.pressedAt}, '[]'
      from (select gen_random_uuid() as id) new
      returning id`;
    if (v.accepted)
      await sql`insert into claim_accepted (version_id, accepted_by, accepted_at) values (${version!.id}, ${teacher}, ${NOW})`;
  }
  for (const word of piece.words)
    await sql`insert into message (id, piece_id, author_id, body, sent_at) values (gen_random_uuid(), ${id}, ${word.by === "student" ? studentId : teacher}, 'x', ${word.at})`;
  if (piece.handedBackAt)
    await sql`insert into hand_back (id, piece_id, round_number, number, outcome, content, handed_back_by, handed_back_at) values (gen_random_uuid(), ${id}, 1, 1, 'final', '{}', ${teacher}, ${piece.handedBackAt})`;
  kept.push({ id, facts, out, piece, ruling });
}

async function makeRounds(pieceId: string, piece: Made) {
  const times = { [piece.round]: piece.roundDue, [piece.round + 1]: piece.revisionDue };
  for (let n = 1; n <= 4; n += 1) {
    const dueAt = n === 1 ? null : (times[n] ?? NOW);
    await database.sql`insert into round (piece_id, number, opened_at, due_at) values (${pieceId}, ${n}, ${NOW}, ${dueAt})`;
  }
}

describe("the view and the core say the same of every piece", () => {
  let rows: Map<string, StandingRow & { closesAt: Date | null; asked: boolean }>;
  test("those that are taken off or withdrawn are in no list, all others are", async () => {
    const found = await database.sql<(StandingRow & { closesAt: Date | null })[]>`
      select * from piece_standing where section_id = ${school.sectionId}`;
    rows = new Map(found.map((row) => [row.id, row]));
    const listed = kept.filter((k) => !k.piece.removed && !k.out.withdrawn);
    expect(new Set(rows.keys())).toEqual(new Set(listed.map((k) => k.id)));
  });
  test("due, closes, late, awaited, missing, drafted, asked and the pile", () => {
    const said = (row: StandingRow & { closesAt: Date | null; asked: boolean }) => ({
      due: row.due,
      closes: row.closesAt,
      late: row.late,
      awaited: row.awaited,
      missing: moonOf(row, NOW).missing,
      drafted: row.drafted,
      asked: row.asked,
      pile: row.pile,
    });
    for (const { id, facts, out, piece, ruling } of kept) {
      const row = rows.get(id);
      if (!row) continue;
      const late = cameLate(facts, { due: ruling, graceMinutes: out.grace });
      const [awaited, drafted] = [isAwaited(facts), isDrafted(facts)];
      expect([facts, said(row)]).toEqual([
        facts,
        {
          due: facts.due,
          closes: closesFor(out.closes, { due: piece.own ?? out.due, graceMinutes: out.grace }),
          late,
          awaited,
          missing: isMissing(facts, NOW),
          drafted,
          asked: hasAsked(facts),
          pile: pileOf({ ...facts, late, awaited, drafted }),
        },
      ]);
    }
  });
  test("one piece read for its moves says so too", async () => {
    for (const { id, facts, out, piece } of kept.slice(0, 400)) {
      const row = await readPiece(database.sql, id);
      expect([row.due, row.closesAt, row.feedbackBegun, row.left, isMissing(row, NOW)]).toEqual([
        facts.due,
        closesFor(out.closes, { due: piece.own ?? out.due, graceMinutes: out.grace }),
        facts.feedbackBegun,
        facts.left,
        isMissing(facts, NOW),
      ]);
    }
  });
  test("every state, pile and answer occurs, so that nothing agrees by being absent", () => {
    const all = [...rows.values()];
    const values = <T>(of: (row: (typeof all)[number]) => T) => new Set(all.map(of)).size;
    expect(values((r) => r.state)).toBe(PIECE_STATES.length);
    expect(values((r) => r.pile)).toBe(6);
    for (const yesNo of ["late", "awaited", "drafted", "asked", "excused"] as const)
      expect([yesNo, values((r) => r[yesNo])]).toEqual([yesNo, 2]);
    expect(values((r) => moonOf(r, NOW).missing)).toBe(2);
  });
});
