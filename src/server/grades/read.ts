import type { GradeCategory, GradeColumn, GradeEntry } from "@/core/grades/grade";
import { trimmed } from "@/core/scores/decimal";
import { USUAL_RULES, type GradeRules } from "@/core/grades/rules";
import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { termOn, type Term } from "@/core/time/term";
import { sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { GradeTerms } from "@/core/views/gradeViews";
import { readCalendar } from "../calendar/calendar";
import type { ReadCall } from "../call";

type Column = GradeColumn & { due: string; finalScore: FinalScore; winBackPercent: string };

/** What the grades of a section come from, for all its students or for one. */
export type GradeBook = GradeTerms & {
  section: { id: string; name: string; course: string };
  rules: GradeRules;
  categories: GradeCategory[];
  columns: (GradeColumn & { due: string })[];
  /** By student. */ entries: ReadonlyMap<string, GradeEntry[]>;
};

type Asked = {
  sectionId: string;
  /** Of one student alone; null: of all. */ studentId: string | null;
  /** A term by its name; null: the one that is now, or else the last one that was. */
  term: string | null;
  /** Only scores that the student was told; a teacher's include those told later. */ toldOnly: boolean;
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
    readPieces(call, asked),
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
    entries: entriesOf(
      pieces,
      new Map(within.map((column) => [column.id, column])),
      asked.toldOnly,
    ),
    terms: terms.map(({ name }) => name),
    term: term?.name ?? null,
  };
}

type ReadColumn = Omit<Column, "due"> & { dueAt: Date; dueOn: string };

function readColumns({ db, who, now }: ReadCall, sectionId: string) {
  return db<ReadColumn[]>`
    select
      hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.category_id,
      trim_scale(assignment.points_possible)::text as possible, assignment.counts, assignment.extra_credit,
      assignment.final_score, assignment.win_back_percent, hand_out.due_at,
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
  /** The newest hand-back that stands told its score. */ told: boolean;
  points: string[];
};

function readPieces({ db, now }: ReadCall, { sectionId, studentId }: Asked) {
  return db<ReadPiece[]>`
    select
      standing.student_id, standing.hand_out_id, standing.excused,
      standing.awaited and standing.last_moment < ${now} as missing,
      coalesce((
        select hand_back.content->>'points' is not null
        from hand_back
        where hand_back.piece_id = standing.id
          and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
        order by hand_back.number desc
        limit 1
      ), false) as told,
      coalesce((
        select array_agg(trim_scale(newest.points)::text order by newest.round_number)
        from (
          select distinct on (score.round_number) score.round_number, score.points
          from score
          where score.piece_id = standing.id
            and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
          order by score.round_number, score.set_at desc, score.id desc
        ) newest
      ), '{}') as points
    from hand_out
    cross join lateral (
      select * from piece_standing
      where piece_standing.hand_out_id = hand_out.id
        ${studentId === null ? db`` : db`and piece_standing.student_id = ${studentId}`}
      offset 0
    ) standing
    where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null and hand_out.opens_at <= ${now}`;
}

function entriesOf(
  pieces: readonly ReadPiece[],
  columns: ReadonlyMap<string, ReadColumn>,
  toldOnly: boolean,
): Map<string, GradeEntry[]> {
  const entries = new Map<string, GradeEntry[]>();
  for (const piece of pieces) {
    const column = columns.get(piece.handOutId);
    if (!column) continue;
    const own = entries.get(piece.studentId) ?? [];
    own.push(entryOf(piece, column, toldOnly));
    entries.set(piece.studentId, own);
  }
  return entries;
}

function entryOf(piece: ReadPiece, column: ReadColumn, toldOnly: boolean): GradeEntry {
  const columnId = piece.handOutId;
  if (piece.excused) return { columnId, state: "excused", points: null };
  const { finalScore: final, winBackPercent } = column;
  const points =
    toldOnly && !piece.told ? null : finalScore(piece.points, { final, winBackPercent });
  if (points !== null) return { columnId, state: "scored", points: trimmed(points) };
  return { columnId, state: piece.missing ? "missing" : "not yet", points: null };
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
