import type { GradeCategory, GradeColumn, GradeEntry } from "@/core/grades/grade";
import { countedScore } from "@/core/scores/countedScore";
import { trimmed } from "@/core/scores/decimal";
import type { LatePolicy, SchoolTime } from "@/core/scores/latePolicy";
import type { ScoreKind } from "@/core/scores/scales";
import { USUAL_RULES, type GradeRules } from "@/core/grades/rules";
import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { termOn, type Term } from "@/core/time/term";
import { sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { GradeTerms } from "@/core/views/gradeViews";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";
import { byPiece, readCells, type CellRow, type Cells } from "./cells";

type Column = GradeColumn & {
  due: string;
  finalScore: FinalScore;
  winBackPercent: string;
  scoreKind: ScoreKind;
  latePolicy: LatePolicy;
};

/** What the grades of a section come from, for all its students or for one. */
export type GradeBook = GradeTerms & {
  section: { id: string; name: string; course: string };
  rules: GradeRules;
  categories: GradeCategory[];
  columns: (GradeColumn & { due: string })[];
  /** By student. */ entries: ReadonlyMap<string, GradeEntry[]>;
  /** Those terms, with their days. */ spans: Term[];
};

type Asked = {
  sectionId: string;
  /** Of some students alone; null: of all. */ studentIds: readonly string[] | null;
  /** A term by its name; null: the one that is now, or else the last one that was. */
  term: string | null;
  /** Only scores that the student was told; a teacher's include those told later, and drafts. */
  toldOnly: boolean;
  /** Read already, for teachers. */ cells?: Promise<Cells>;
};

/**
 * Reads what grades come from: hand-outs that are due within the term, with their scores over the rounds. Who may see it
 * was decided before. Indexes: hand_out_section, piece's unique one, score_piece.
 */
export async function readGradeBook(call: ReadCall, asked: Asked): Promise<GradeBook> {
  const { db, who, now } = call;
  const { sectionId } = asked;
  const [[about], categories, columns, pieces, { calendar }] = await Promise.all([
    db<{ name: string; course: string; gradeRules: Partial<GradeRules> }[]>`
      select section.name, course.name as course, section.grade_rules
      from section join course on course.id = section.course_id where section.id = ${sectionId}`,
    db<GradeCategory[]>`
      select id, name, trim_scale(weight)::text as weight, drop_lowest as drop
      from category where section_id = ${sectionId} order by position, id`,
    readColumns(call, sectionId),
    asked.toldOnly ? readTold(call, asked) : readForTeachers(call, asked),
    readCalendar(db, who.schoolId),
  ]);
  const { terms, term } = termsOf(calendar.terms, columns, asked.term, dayOf(now, who.zone));
  const within = columns.filter(
    ({ dueOn }) => !term || (term.startsOn <= dueOn && dueOn <= term.endsOn),
  );
  return {
    section: { id: sectionId, name: about!.name, course: about!.course },
    rules: { ...USUAL_RULES, ...about!.gradeRules },
    categories,
    columns: within.map(({ id, title, categoryId, possible, counts, extraCredit, dueAt }) => ({
      ...{ id, title, categoryId, possible, counts, extraCredit },
      due: sayTime(dueAt, now, who.zone),
    })),
    entries: entriesOf(pieces, {
      columns: new Map(within.map((column) => [column.id, column])),
      school: { calendar, zone: who.zone },
    }),
    terms: terms.map(({ name }) => name),
    term: term?.name ?? null,
    spans: terms,
  };
}

type ReadColumn = Omit<Column, "due"> & { dueAt: Date; dueOn: string };

function readColumns({ db, who, now }: ReadCall, sectionId: string) {
  return db<ReadColumn[]>`
    select
      hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.category_id,
      trim_scale(assignment.points_possible)::text as possible, assignment.counts, assignment.extra_credit,
      assignment.final_score, assignment.win_back_percent, assignment.score_kind, hand_out.late_policy, hand_out.due_at,
      to_char(hand_out.due_at at time zone ${who.zone}, 'YYYY-MM-DD') as due_on
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now}
    order by hand_out.due_at, hand_out.id`;
}

type ReadPiece = {
  studentId: string;
  handOutId: string;
  excused: boolean;
  missing: boolean;
  /** The points of each round that has some, the first round first. */ rounds: RoundPoints[];
  /** What is typed and not handed back as it stands; null: nothing, or names are hidden. */
  draft: Draft | null;
};
type RoundPoints = { round: number; points: string };
type Draft = {
  round: number;
  /** Null: the score is taken away. */ points: string | null;
  handIn: CellRow["handIn"];
};

/** For teachers: all scores that were handed back, told or not, with the drafts beside them. */
async function readForTeachers(call: ReadCall, asked: Asked): Promise<ReadPiece[]> {
  const { sectionId, studentIds } = asked;
  const { rows, scores } = await (asked.cells ??
    readCells(call, sectionId, studentIds ? { studentIds } : {}));
  const rounds = byPiece(scores);
  return rows.map((row) => ({
    studentId: row.studentId,
    handOutId: row.handOutId,
    excused: row.excused,
    missing: row.missing,
    rounds: rounds.get(row.id) ?? NO_ROUNDS,
    draft: row.untold && !row.hidden ? draftOf(row) : null,
  }));
}

const NO_ROUNDS: RoundPoints[] = [];
const draftOf = ({ draftRound, draftPoints, handIn }: CellRow): Draft => ({
  ...{ round: draftRound!, points: draftPoints, handIn },
});

/** For students and guardians: scores they were told; the newest hand-back that stands says whether they were. */
async function readTold({ db, now }: ReadCall, asked: Asked): Promise<ReadPiece[]> {
  const { sectionId, studentIds } = asked;
  const rows = await db<(Omit<ReadPiece, "draft"> & { told: boolean })[]>`
    select
      standing.student_id, standing.hand_out_id, standing.excused,
      standing.said_missing or (standing.awaited and standing.last_moment < ${now}) as missing,
      coalesce((
        select hand_back.content->>'points' is not null
        from hand_back
        where hand_back.piece_id = standing.id
          and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
        order by hand_back.number desc
        limit 1
      ), false) as told,
      coalesce((
        select jsonb_agg(
          jsonb_build_object('round', newest.round_number, 'points', trim_scale(newest.points)::text)
          order by newest.round_number)
        from (
          select distinct on (score.round_number) score.round_number, score.points
          from score
          where score.piece_id = standing.id
            and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
          order by score.round_number, score.set_at desc, score.id desc
        ) newest
      ), '[]') as rounds
    from piece_standing standing
    where standing.hand_out_id = any(array(
        select id from hand_out where section_id = ${sectionId} and opens_at <= ${now}
      ))
      ${studentIds ? db`and standing.student_id = any(${[...studentIds]})` : db``}`;
  return rows.map(({ told, ...piece }) => ({
    ...piece,
    ...{ rounds: told ? piece.rounds : [], draft: null },
  }));
}

type About = {
  columns: ReadonlyMap<string, ReadColumn>;
  school: SchoolTime;
};

function entriesOf(pieces: readonly ReadPiece[], about: About): Map<string, GradeEntry[]> {
  const entries = new Map<string, GradeEntry[]>();
  for (const piece of pieces) {
    const column = about.columns.get(piece.handOutId);
    if (!column) continue;
    const own = entries.get(piece.studentId) ?? [];
    own.push(entryOf(piece, column, about.school));
    entries.set(piece.studentId, own);
  }
  return entries;
}

function entryOf(piece: ReadPiece, column: ReadColumn, school: SchoolTime): GradeEntry {
  const columnId = piece.handOutId;
  if (piece.excused) return { columnId, state: "excused", points: null };
  const { finalScore: final, winBackPercent } = column;
  const points = finalScore(roundsOf(piece, column, school), { final, winBackPercent });
  const draft = piece.draft ? { draft: true } : {};
  if (points !== null) return { columnId, state: "scored", points: trimmed(points), ...draft };
  return { columnId, state: piece.missing ? "missing" : "not yet", points: null };
}

/** The points of each round, with the draft's in place of those that were handed back in its round. */
function roundsOf({ rounds, draft }: ReadPiece, column: ReadColumn, school: SchoolTime): string[] {
  if (!draft) return rounds.map((score) => score.points);
  const others = rounds.filter((score) => score.round !== draft.round);
  const points = countedDraft(draft, column, school);
  const all = points === null ? others : [...others, { round: draft.round, points }];
  return all.sort((a, b) => a.round - b.round).map((score) => score.points);
}

/** A draft's points less what lateness will take off, as when it is handed back. */
function countedDraft(
  { points, handIn }: Draft,
  { scoreKind, possible, latePolicy }: ReadColumn,
  school: SchoolTime,
): string | null {
  if (points === null) return null;
  const handedIn = handIn && {
    ...{ due: new Date(handIn.due), graceMinutes: handIn.graceMinutes },
    countedAt: new Date(handIn.countedAt),
  };
  const counting = { policy: latePolicy, scale: { kind: scoreKind, possible } };
  return countedScore(counting, handedIn, { points, shown: points }, school).points;
}

/** The terms in which something is due, and the one that is meant: by name, the present one, or the last that began. */
function termsOf(
  all: readonly Term[],
  columns: readonly ReadColumn[],
  wanted: string | null,
  today: string,
): { terms: Term[]; term: Term | null } {
  const terms = all.filter(({ startsOn, endsOn }) =>
    columns.some(({ dueOn }) => startsOn <= dueOn && dueOn <= endsOn),
  );
  const named = terms.find(({ name }) => name === wanted);
  const begun = [...terms].reverse().find(({ startsOn }) => startsOn <= today);
  return { terms, term: named ?? termOn(today, terms) ?? begun ?? null };
}
