import type { DeskPiece } from "@/core/views/deskViews";
import { Empty, Notice } from "../../kit/Notice";
import { RichText } from "../../text/RichText";

/** Instead of the work, where nothing is handed in. */
export function NothingIn({ piece }: { piece: DeskPiece }) {
  if (piece.unfinishedDoc) {
    return (
      <section aria-label="Unfinished work" className="max-w-[42rem]">
        <Notice ink="tide" className="mb-4">
          Not handed in yet: {piece.unfinished}. {piece.called || "The student"} knows that you may
          read along. Marks wait for the hand-in; a word in the thread does not.
        </Notice>
        <RichText doc={piece.unfinishedDoc} />
      </section>
    );
  }
  if (piece.unfinished)
    return (
      <Empty title="Not handed in yet">
        {piece.unfinished}. You can still write an overall note or a score.
      </Empty>
    );
  return (
    <Empty title={piece.moon.state === "not_opened" ? "Not opened yet" : "Nothing is handed in"}>
      You can still write an overall note or a score, for work on paper or a talk in class.
    </Empty>
  );
}
