import type { RichDoc } from "@/core/text/richDoc";
import type { PieceFlag } from "@/core/pieces/flags";
import type { ReadCall } from "../../call";

type About = {
  student: string;
  called: string;
  title: string;
  section: string;
  seenAt: Date | null;
  openBefore: boolean;
  flag: PieceFlag | null;
  instructions: RichDoc;
  voice: string | null;
  voiceSeconds: number;
};

/** Whose a piece is and of what task, and how its section keeps voices. */
export async function readAbout({ db }: ReadCall, pieceId: string) {
  const [row] = await db<About[]>`
    select shown_name(student) as student, student.called, assignment.title, section.name as section, piece.seen_at, piece.flag, assignment.clip_id as voice, section.voice_seconds,
      coalesce(wording.instructions, assignment.instructions) as instructions,
      assignment.open_before or exists (select from material where material.assignment_id = assignment.id and material.use = 'copy') as open_before
    from piece
    join person student on student.id = piece.student_id
    join hand_out on hand_out.id = piece.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join assignment_version wording on wording.id = piece.version_id
    join section on section.id = hand_out.section_id
    where piece.id = ${pieceId}`;
  return row!;
}
