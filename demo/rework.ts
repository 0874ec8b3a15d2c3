import type { Answers } from "../src/core/questions/question";
import type { RichDoc } from "../src/core/text/richDoc";
import type { Call, Person } from "../src/server/call";
import { handIn } from "../src/server/pieces/moves";

/** Whatever the day and the hour, so much rework waits for a teacher: the pile is part of what is shown. */
const LEAST = 3;

type Reworked = Person & { pieceId: string; doc: RichDoc; answers: Answers; revision: string };

/** Where chance left less of it on the pile, some who are at their rework hand it in. */
export async function leaveRework(call: Omit<Call, "who"> & { who: Person }): Promise<void> {
  const { tx, who, now } = call;
  const [waiting] = await tx<{ n: number }[]>`
    select count(*)::int as n from piece where round > 1 and state = 'handed_in'`;
  const rows = await tx<Reworked[]>`
    select piece.id as piece_id, working_copy.doc, working_copy.answers, working_copy.revision,
      person.id, person.kind, person.name, person.called, person.school_id
    from piece
    join working_copy on working_copy.piece_id = piece.id
    join hand_out on hand_out.id = piece.hand_out_id and hand_out.closes_at is null
    join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
    join person on person.id = piece.student_id
    where piece.state = 'reworking' and piece.removed_at is null and piece.left_at is null
    order by piece.id
    limit ${Math.max(0, LEAST - waiting!.n)}`;
  for (const [n, { pieceId, doc, answers, revision, ...person }] of rows.entries())
    await handIn(
      {
        ...call,
        who: { ...person, zone: who.zone },
        now: new Date(now.getTime() - (n + 1) * 40 * 60_000),
      },
      pieceId,
      { doc, answers },
      Number(revision),
    );
}
