import type { ReadCall } from "../../call";

export type Ways = {
  handOut: string;
  section: string;
  anonymous: boolean;
  rubricId: string | null;
  questions: boolean;
};

/** What the ways through all pieces of a hand-out go by: its names, its rubric, whether it asks questions, whether names are hidden. */
export async function readWays({ db }: Pick<ReadCall, "db">, handOutId: string): Promise<Ways> {
  const [row] = await db<Ways[]>`
    select full_title(assignment.emoji, assignment.number, assignment.title) as hand_out, section.name as section, hand_out.anonymous, assignment.rubric_id,
      exists (select from assignment_questions where assignment_id = assignment.id) as questions
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where hand_out.id = ${handOutId}`;
  return row!;
}
