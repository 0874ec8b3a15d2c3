import { sayTime } from "@/core/time/words";
import { shownScore, type HandBackContent } from "@/core/rounds/cameBack";
import type { DeskPiece } from "@/core/views/deskViews";
import type { ReadCall } from "../../call";
import { readGiven } from "../../pieces/given";
import type { PieceRow, VersionRow } from "../../life/queries";
import { readPrivateNotes } from "../privateNotes";

type Aside = Pick<DeskPiece, "privateNotes" | "versions" | "otherWork"> & {
  task: Pick<DeskPiece["task"], "materials">;
};

/** What can be opened beside the work: what was given with the task, earlier hand-ins, other work of the student, private notes. */
export async function readAside(
  call: ReadCall,
  piece: PieceRow,
  versions: readonly VersionRow[],
  hide: boolean,
): Promise<Aside> {
  const { who, now } = call;
  const [given, privateNotes, otherWork] = await Promise.all([
    readGiven(call, piece.id),
    readPrivateNotes(call, piece.id),
    hide ? [] : readOtherWork(call, piece),
  ]);
  return {
    // A word on the student would say who it is.
    privateNotes: hide ? privateNotes.filter((n) => n.about === "piece") : privateNotes,
    versions: versions
      .map((v) => ({
        id: v.id,
        number: v.number,
        round: v.roundNumber,
        when: sayTime(v.handedInAt, now, who.zone),
        words: v.words,
      }))
      .reverse(),
    otherWork,
    task: { materials: given.view.materials.map(({ title, href, doc }) => ({ title, href, doc })) },
  };
}

const MOST = 12;

/** What came back to this student before, in sections of this teacher. Index: piece by student. */
async function readOtherWork(
  { db, who, now }: ReadCall,
  piece: PieceRow,
): Promise<DeskPiece["otherWork"]> {
  const rows = await db<{ pieceId: string; title: string; content: HandBackContent; at: Date }[]>`
    select other.id as piece_id, full_title(assignment.emoji, assignment.number, assignment.title) as title, last.content, last.handed_back_at as at
    from piece other
    join hand_out on hand_out.id = other.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    join section_teacher on section_teacher.section_id = hand_out.section_id and section_teacher.person_id = ${who.id}
    cross join lateral (
      select content, handed_back_at
      from hand_back
      where piece_id = other.id and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
      order by number desc
      limit 1
    ) last
    where other.student_id = ${piece.studentId} and other.id <> ${piece.id}
    order by last.handed_back_at desc
    limit ${MOST}`;
  return rows.map(({ pieceId, title, content, at }) => ({
    pieceId,
    title,
    score: shownScore(content),
    overall: content.overall,
    when: sayTime(at, now, who.zone),
  }));
}
