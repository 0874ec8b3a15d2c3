import type { Fragment } from "postgres";
import type { Db } from "../db/connection";

/**
 * When each thing is due that is given to a student and stands, in whatever section: one column, `due`. By student, and each
 * hand-out by its key ("offset 0"): the planner would otherwise read the hand-outs of the whole school for each of them.
 * Indexes: piece_student, hand_out's key.
 *
 * @param studentId a column beside it
 */
export const owedBy = (db: Db, studentId: Fragment) => db`
  select coalesce(piece.own_due_at, given.due_at) as due
  from piece
  cross join lateral (
    select due_at from hand_out where hand_out.id = piece.hand_out_id and withdrawn_at is null offset 0
  ) given
  where piece.student_id = ${studentId} and piece.removed_at is null and piece.left_at is null and not piece.excused
  offset 0`;
