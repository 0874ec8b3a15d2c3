import { may } from "@/core/access/access";
import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { trimmed } from "@/core/scores/decimal";
import { sayPoints, type ScoreKind } from "@/core/scores/scales";
import { dayOf } from "@/core/time/zone";
import { sayTime } from "@/core/time/words";
import type { LedgerView, SectionSummary, SectionView } from "@/core/views/overviewViews";
import { requireKind, requireOnSection } from "../access/standing";
import type { ReadCall } from "../call";
import { moonOf, type StandingRow } from "../life/standings";
import { hiddenNow, unlinked } from "../names/names";
import type { MoonView } from "@/core/views/views";

/** A teacher's sections. Index: section_teacher_person. */
export async function sectionList({ db, who }: ReadCall): Promise<SectionSummary[]> {
  requireKind(who, "teacher");
  return db<SectionSummary[]>`
    select
      section.id, section.name, course.name as course, section_teacher.role,
      (select count(*)::int from enrolment where section_id = section.id and left_on is null) as students,
      (select count(*)::int from hand_out where section_id = section.id and withdrawn_at is null) as hand_outs
    from section_teacher
    join section on section.id = section_teacher.section_id
    join course on course.id = section.course_id
    where section_teacher.person_id = ${who.id}
    order by course.name, section.name`;
}

/** The terms a new section can be in: those not over yet, the present one marked. */
export async function termList({
  db,
  who,
  now,
}: ReadCall): Promise<{ id: string; name: string; now: boolean }[]> {
  if (who.kind !== "office") requireKind(who, "teacher");
  const today = dayOf(now, who.zone);
  return db<{ id: string; name: string; now: boolean }[]>`
    select id, name, ${today}::date between starts_on and ends_on as now
    from term
    where school_id = ${who.schoolId} and ends_on >= ${today}::date
    order by starts_on`;
}

/** Hand-outs of one's own by their ids, to say where work went that was just handed out to several sections. */
export async function handedOutNow(
  { db, who, now }: ReadCall,
  ids: readonly string[],
): Promise<{ id: string; title: string; section: string; students: number; due: string }[]> {
  requireKind(who, "teacher");
  const rows = await db<
    { id: string; title: string; section: string; students: number; dueAt: Date }[]
  >`
    select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, section.name as section, hand_out.due_at,
      (select count(*)::int from piece where hand_out_id = hand_out.id and removed_at is null) as students
    from section_teacher
    join section on section.id = section_teacher.section_id
    join hand_out on hand_out.section_id = section.id and hand_out.id = any(${[...ids]})
    join assignment on assignment.id = hand_out.assignment_id
    where section_teacher.person_id = ${who.id}
    order by section.name`;
  return rows.map(({ dueAt, ...row }) => ({ ...row, due: sayTime(dueAt, now, who.zone) }));
}

/** Teachers of the school, for the office, who makes sections for them. */
export async function teacherList({ db, who }: ReadCall): Promise<{ id: string; name: string }[]> {
  requireKind(who, "office");
  return db<{ id: string; name: string }[]>`
    select person.id, shown_name(person) as name
    from person
    where school_id = ${who.schoolId} and kind = 'teacher'
    order by sort_name, id
    limit 1000`;
}

async function readAbout({ db }: ReadCall, sectionId: string) {
  const [row] = await db<{ id: string; name: string; course: string }[]>`
    select section.id, section.name, course.name as course
    from section
    join course on course.id = section.course_id
    where section.id = ${sectionId}`;
  return row!;
}

type ListedPiece = StandingRow & {
  title: string;
  pointsPossible: string | null;
  hidden: boolean;
};

const readStandings = ({ db }: ReadCall, sectionId: string) =>
  db<ListedPiece[]>`
    select standing.*, ${hiddenNow(db, db`standing.id`)} as hidden
    from hand_out
    join piece_standing standing on standing.hand_out_id = hand_out.id
    where hand_out.section_id = ${sectionId}`;

/** Who was taken off what: another thing than never having been given it. */
async function readTakenOff({ db }: ReadCall, sectionId: string): Promise<Set<string>> {
  const rows = await db<{ studentId: string; handOutId: string }[]>`
    select piece.student_id, piece.hand_out_id
    from hand_out
    join piece on piece.hand_out_id = hand_out.id
    where hand_out.section_id = ${sectionId} and piece.removed_at is not null`;
  return new Set(rows.map((row) => `${row.studentId} ${row.handOutId}`));
}

const readStudents = ({ db, who, now }: ReadCall, sectionId: string) =>
  db<{ id: string; name: string; leftOn: string | null }[]>`
    select person.id, shown_name(person) as name, case when enrolment.left_on <= (${now}::timestamptz at time zone ${who.zone})::date then enrolment.left_on end as left_on
    from enrolment
    join person on person.id = enrolment.student_id
    where enrolment.section_id = ${sectionId}
    order by person.sort_name, person.id`;

/** A section's page: its teachers, and the roster with a moon per current hand-out. */
export async function sectionView(call: ReadCall, sectionId: string): Promise<SectionView> {
  const { db, who, now } = call;
  const standing = await requireOnSection(db, who, sectionId, "section.see");
  const [about, teachers, handOuts, students, pieces, takenOff] = await Promise.all([
    readAbout(call, sectionId),
    db<{ name: string; role: string }[]>`
      select person.name, section_teacher.role
      from section_teacher
      join person on person.id = section_teacher.person_id
      where section_teacher.section_id = ${sectionId}
      order by section_teacher.role desc, person.sort_name`,
    db<{ id: string; title: string; dueAt: Date; expects: string }[]>`
      select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.due_at
      from hand_out
      join assignment on assignment.id = hand_out.assignment_id
      where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null and hand_out.put_away_at is null
      order by hand_out.due_at desc
      limit 12`,
    readStudents(call, sectionId),
    readStandings(call, sectionId),
    readTakenOff(call, sectionId),
  ]);
  const found = new Map(pieces.map((piece) => [`${piece.studentId} ${piece.handOutId}`, piece]));
  // The board is the teachers': to the office a section is its people, not their work.
  const board = may(standing, "handOut.see") ? handOuts : [];
  return {
    ...about,
    teachers,
    mayHandOut: may(standing, "section.handOut"),
    handOuts: board.map(({ id, title, dueAt }) => ({
      id,
      title,
      due: sayTime(dueAt, now, who.zone),
    })),
    roster: students
      .filter((s) => s.leftOn === null)
      .map(({ id, name }) => ({
        studentId: id,
        name,
        moons: board.map((handOut) => {
          const piece = found.get(`${id} ${handOut.id}`);
          if (piece) return listed(piece, now);
          return { pieceId: null, moon: null, takenOff: takenOff.has(`${id} ${handOut.id}`) };
        }),
      })),
  };
}

/** Students down, hand-outs across, in the order of their due times. Scores are those last handed back. */
export async function ledgerView(call: ReadCall, sectionId: string): Promise<LedgerView> {
  const { db, who, now } = call;
  await requireOnSection(db, who, sectionId, "ledger.see");
  const [section, columns, students, pieces, takenOff, scores] = await Promise.all([
    readAbout(call, sectionId),
    db<
      {
        id: string;
        title: string;
        dueAt: Date;
        pointsPossible: string | null;
        scoreKind: ScoreKind;
        finalScore: FinalScore;
        winBackPercent: string;
        counts: boolean;
        extraCredit: boolean;
        category: string | null;
      }[]
    >`
      select hand_out.id, full_title(assignment.emoji, assignment.number, assignment.title) as title, hand_out.due_at, assignment.points_possible,
        assignment.score_kind, assignment.final_score, assignment.win_back_percent, assignment.counts, assignment.extra_credit, category.name as category
      from hand_out
      join assignment on assignment.id = hand_out.assignment_id
      left join category on category.id = hand_out.category_id
      where hand_out.section_id = ${sectionId} and hand_out.withdrawn_at is null
      order by hand_out.due_at, assignment.title`,
    readStudents(call, sectionId),
    readStandings(call, sectionId),
    readTakenOff(call, sectionId),
    db<{ pieceId: string; points: string; shown: string | null }[]>`
      select distinct on (score.piece_id, score.round_number) score.piece_id, score.points, score.shown
      from score
      join piece on piece.id = score.piece_id
      join hand_out on hand_out.id = piece.hand_out_id
      where hand_out.section_id = ${sectionId}
        and not exists (select from hand_back_withdrawn where hand_back_id = score.hand_back_id)
      order by score.piece_id, score.round_number, score.set_at desc, score.id desc`,
  ]);
  const found = new Map(pieces.map((piece) => [`${piece.studentId} ${piece.handOutId}`, piece]));
  const rounds = new Map<string, { points: string; shown: string | null }[]>();
  for (const score of scores)
    rounds.set(score.pieceId, [...(rounds.get(score.pieceId) ?? []), score]);
  return {
    section,
    columns: columns.map((c) => ({
      handOutId: c.id,
      title: c.title,
      due: sayTime(c.dueAt, now, who.zone),
      possible: c.pointsPossible === null ? null : trimmed(c.pointsPossible),
      about: [
        c.category ?? "",
        c.counts ? "" : "does not count",
        c.extraCredit ? "extra credit" : "",
      ]
        .filter(Boolean)
        .join(" · "),
    })),
    rows: students.map(({ id, name, leftOn }) => ({
      studentId: id,
      takenOff: columns.map((column) => takenOff.has(`${id} ${column.id}`)),
      student: leftOn ? `${name} (left)` : name,
      cells: columns.map((column) => {
        const piece = found.get(`${id} ${column.id}`);
        return piece
          ? {
              ...listed(piece, now),
              score: scoreInLedger(rounds.get(piece.id) ?? [], column),
            }
          : null;
      }),
    })),
  };
}

/** A piece in a list by names; one that is read without its name is not to be found from there. */
function listed(piece: ListedPiece, now: Date): { pieceId: string | null; moon: MoonView } {
  const moon = moonOf(piece, now);
  return piece.hidden ? { pieceId: null, moon: unlinked(moon) } : { pieceId: piece.id, moon };
}

/** The score that counts over the rounds: as points, or as its own scale shows it. */
function scoreInLedger(
  rounds: readonly { points: string; shown: string | null }[],
  column: {
    scoreKind: ScoreKind;
    pointsPossible: string | null;
    finalScore: FinalScore;
    winBackPercent: string;
  },
): string | null {
  const points = finalScore(
    rounds.map((r) => r.points),
    { final: column.finalScore, winBackPercent: column.winBackPercent },
  );
  if (points === null) return null;
  if (column.scoreKind === "points") return trimmed(points);
  const latest = rounds.at(-1)!;
  return latest.shown !== null && trimmed(latest.points) === trimmed(points)
    ? latest.shown
    : sayPoints(points, { kind: column.scoreKind, possible: column.pointsPossible });
}
