import type { Place } from "@/core/marks/place";
import type { CommentView } from "@/core/views/views";
import { pointOn } from "../../marks/pointOn";
import type { DeskSession } from "../store/DeskSession";

/** A point of the window, in CSS pixels. */
export type PointSeen = { x: number; y: number };

/** A comment let go over the work: on the word under the pointer, or on the place of the page or picture. */
export function dropComment(session: DeskSession, comment: CommentView, at: PointSeen): void {
  const place = placeUnder(session, at);
  if (place) return session.marking.take(comment, { place });
  const caret = document.caretRangeFromPoint?.(at.x, at.y);
  const run = caret?.startContainer.parentElement?.closest<HTMLElement>("[data-at]");
  if (caret && run && session.at("writing")?.contains(run))
    session.marking.takeOnWord(comment, Number(run.dataset.at) + caret.startOffset);
}

/** The point of the page or picture under the pointer. */
function placeUnder(session: DeskSession, { x: clientX, y: clientY }: PointSeen): Place | null {
  const target = document.elementFromPoint(clientX, clientY);
  if (!target || !session.at("sheet")?.contains(target)) return null;
  const surface = target.closest<HTMLElement>("[data-surface]");
  const itemId = target.closest<HTMLElement>("[data-item]")?.dataset.item;
  if (!surface || !itemId) return null;
  const [x, y] = pointOn(surface, { clientX, clientY });
  const area = { x, y, w: 0, h: 0 };
  const page = surface.closest<HTMLElement>("[data-page]")?.dataset.page;
  return page
    ? { on: "page", itemId, page: Number(page), area, words: null }
    : { on: "picture", itemId, area };
}
