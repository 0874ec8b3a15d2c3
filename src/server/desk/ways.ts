import type { ReadCall } from "../call";

/** Which ways through all pieces of a hand-out there are: by a rubric's criteria, by questions; and whether names are hidden. */
export async function readWays({ db }: ReadCall, handOutId: string): Promise<{ anonymous: boolean; criterion: boolean; questions: boolean }> {
  const [row] = await db<{ anonymous: boolean; criterion: boolean; questions: boolean }[]>`
    select hand_out.anonymous, assignment.rubric_id is not null as criterion,
      exists (select from assignment_questions where assignment_id = assignment.id) as questions
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    where hand_out.id = ${handOutId}`;
  return row ?? { anonymous: false, criterion: false, questions: false };
}
