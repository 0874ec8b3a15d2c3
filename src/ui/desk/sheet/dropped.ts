import type { Place } from "@/core/marks/place";
import type { CommentView } from "@/core/views/views";
import { pointOn } from "../../marks/pointOn";
import type { DeskSession } from "../store/DeskSession";

/** A comment let go over the work: on the word under the pointer, or on the place of the page or picture. */
export function dropComment(
  event: React.DragEvent,
  session: DeskSession,
  bank: readonly CommentView[],
): void {
  const commentId = event.dataTransfer.getData("text/x-comment");
  const comment = bank.find((c) => c.id === commentId);
  if (!comment) return;
  event.preventDefault();
  const place = placeUnder(event);
  if (place) return session.marking.take(comment, { place });
  const caret = document.caretRangeFromPoint?.(event.clientX, event.clientY);
  const run = caret?.startContainer.parentElement?.closest<HTMLElement>("[data-at]");
  if (caret && run && session.at("writing")?.contains(run))
    session.marking.takeOnWord(comment, Number(run.dataset.at) + caret.startOffset);
}

/** The point of the page or picture under the pointer. */
function placeUnder(event: React.DragEvent): Place | null {
  const target = event.target as HTMLElement;
  const surface = target.closest<HTMLElement>("[data-surface]");
  const itemId = target.closest<HTMLElement>("[data-item]")?.dataset.item;
  if (!surface || !itemId) return null;
  const [x, y] = pointOn(surface, event);
  const area = { x, y, w: 0, h: 0 };
  const page = surface.closest<HTMLElement>("[data-page]")?.dataset.page;
  return page
    ? { on: "page", itemId, page: Number(page), area, words: null }
    : { on: "picture", itemId, area };
}
