import { may, type Act, type Standing } from "@/core/access/access";
import { NotFound } from "@/core/refusals";
import type { Person, ReadCall } from "../call";
import type { Db } from "../db/connection";

/**
 * What a person is to a section, a hand-out or a piece, read from the roster in one query each
 * (indexes: the primary keys of section_teacher, enrolment and guardianship).
 *
 * Each function throws NotFound when the act is not theirs: to those it does not belong to, a thing
 * does not exist.
 */
type Facts = {
  role: string | null;
  mayHandBack: boolean;
  own: boolean;
  /** Theirs once, with something of theirs in it; now it is taken off, or the hand-out withdrawn. */ was?: boolean;
  enrolled: boolean;
  guardian: boolean;
  sameSchool: boolean;
};

function standingOf(who: Person, facts: Facts | undefined): Standing {
  if (!facts || !facts.sameSchool) return "none";
  if (who.kind === "teacher") return standingOfTeacher(facts);
  if (who.kind === "office") return "office";
  if (who.kind === "guardian") return facts.guardian ? "guardian" : "none";
  return standingOfStudent(facts);
}

export function standingOfTeacher({ role, mayHandBack }: Pick<Facts, "role" | "mayHandBack">) {
  if (role === "owner") return "owner";
  if (role !== "co-teacher") return "none";
  return mayHandBack ? "trusted co-teacher" : "co-teacher";
}

function standingOfStudent({ own, was, enrolled }: Facts): Standing {
  if (own) return "student";
  if (was) return "taken off";
  return enrolled ? "classmate" : "none";
}

/** @throws NotFound where the standing does not allow the act */
export function require(standing: Standing, act: Act): Standing {
  if (!may(standing, act)) throw new NotFound();
  return standing;
}

export async function requireOnSection(
  db: Db,
  who: Person,
  sectionId: string,
  act: Act,
): Promise<Standing> {
  return require(await standingOnSection(db, who, sectionId), act);
}

/** What someone is to a section. */
export async function standingOnSection(db: Db, who: Person, sectionId: string): Promise<Standing> {
  const [facts] = await db<Facts[]>`
    select
      teacher.role,
      coalesce(teacher.may_hand_back, false) as may_hand_back,
      false as own,
      exists (select from enrolment where section_id = section.id and student_id = ${who.id}) as enrolled,
      false as guardian,
      course.school_id = ${who.schoolId} as same_school
    from section
    join course on course.id = section.course_id
    left join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}
    where section.id = ${sectionId}`;
  return standingOf(who, facts);
}

export async function requireOnHandOut(
  db: Db,
  who: Person,
  handOutId: string,
  act: Act,
): Promise<Standing> {
  const [found] = await db<
    { sectionId: string }[]
  >`select section_id from hand_out where id = ${handOutId}`;
  if (!found) throw new NotFound();
  return requireOnSection(db, who, found.sectionId, act);
}

/** Something of a piece is its student's or was said to them: it stays theirs whatever becomes of the piece. Needs `piece` beside it. */
export const hasTheirs = (db: Db) => db`(
  exists (select from version where version.piece_id = piece.id)
  or exists (select from working_copy where working_copy.piece_id = piece.id)
  or exists (select from item where item.piece_id = piece.id)
  or exists (select from hand_back where hand_back.piece_id = piece.id)
)`;

/** To its student a piece exists from the moment its hand-out opens, until it is taken away or withdrawn. */
export async function requireOnPiece(
  { db, who, now }: ReadCall,
  pieceId: string,
  act: Act,
): Promise<Standing> {
  const [facts] = await db<Facts[]>`
    select
      teacher.role,
      coalesce(teacher.may_hand_back, false) as may_hand_back,
      piece.student_id = ${who.id} and hand_out.opens_at <= ${now} and piece.removed_at is null and hand_out.withdrawn_at is null as own,
      piece.student_id = ${who.id} and hand_out.opens_at <= ${now} and ${hasTheirs(db)} as was,
      exists (select from enrolment where section_id = hand_out.section_id and student_id = ${who.id}) as enrolled,
      exists (select from guardianship where guardian_id = ${who.id} and student_id = piece.student_id) as guardian,
      course.school_id = ${who.schoolId} as same_school
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    left join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}
    where piece.id = ${pieceId}`;
  return require(standingOf(who, facts), act);
}

/**
 * The same for many pieces in one query, by a teacher. Index: piece's primary key.
 *
 * @throws NotFound when any of them is not theirs for this act
 */
export async function requireOnPieces(
  { db, who }: ReadCall,
  pieceIds: readonly string[],
  act: Act,
): Promise<void> {
  const rows = await db<Facts[]>`
    select
      teacher.role,
      coalesce(teacher.may_hand_back, false) as may_hand_back,
      false as own, false as enrolled, false as guardian,
      course.school_id = ${who.schoolId} as same_school
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    left join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}
    where piece.id = any(${pieceIds as string[]})`;
  if (rows.length !== new Set(pieceIds).size) throw new NotFound();
  for (const facts of rows) require(standingOf(who, facts), act);
}

/** What someone is to the class of a hand-out: to a student it exists from the moment they have it. */
export async function requireInClass(
  { db, who, now }: ReadCall,
  handOutId: string,
  act: Act,
): Promise<Standing> {
  const [facts] = await db<Facts[]>`
    select
      teacher.role,
      coalesce(teacher.may_hand_back, false) as may_hand_back,
      hand_out.opens_at <= ${now} and hand_out.withdrawn_at is null
        and exists (select from piece where hand_out_id = hand_out.id and student_id = ${who.id} and removed_at is null) as own,
      false as enrolled,
      false as guardian,
      course.school_id = ${who.schoolId} as same_school
    from hand_out
    join section on section.id = hand_out.section_id
    join course on course.id = section.course_id
    left join section_teacher teacher on teacher.section_id = section.id and teacher.person_id = ${who.id}
    where hand_out.id = ${handOutId}`;
  return require(standingOf(who, facts), act);
}

/** For what belongs to a person as such: a teacher's bank, the office's school, a guardian's week. */
export function requireKind(who: Person, kind: Person["kind"]): void {
  const may = who.kind === kind || (kind === "office" && who.keepsSchool);
  if (!may) throw new NotFound();
}
