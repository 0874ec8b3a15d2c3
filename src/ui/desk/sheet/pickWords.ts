import { around, clampArea, type Area, type PageWords } from "@/core/marks/place";
import { sayWords, toGraphemes } from "@/core/text/pageText";
import type { Range } from "@/core/text/selectors";
import { textOfPage } from "../../items/PdfPages";
import { areaOn } from "../../marks/pointOn";

/** What is selected on the sheet: words of the writing, or words of a page. */
export type Picked =
  | ({ on: "text" } & Range & { quote: string })
  | { on: "page"; itemId: string; page: number; words: PageWords; area: Area; quote: string };

/** The words selected on a page of a file, with the boxes they fill; null when nothing on a page is. */
export function pickedOnPage(root: HTMLElement): Picked | null {
  const selection = window.getSelection();
  if (!selection || selection.rangeCount === 0 || selection.isCollapsed) return null;
  const range = selection.getRangeAt(0);
  const words = closest(range.startContainer, "[data-words]");
  // A selection drawn past the page's foot still begins on its words.
  if (!words || !root.contains(words)) return null;
  const text = textOfPage(words);
  const from = offsetIn(words, range.startContainer, range.startOffset);
  const to = words.contains(range.endContainer)
    ? offsetIn(words, range.endContainer, range.endOffset)
    : text.length;
  if (from === null || to === null || to <= from) return null;
  return pickOn(words, { start: from, end: to });
}

/** Words of a page by their offsets. */
export function pickOn(words: HTMLElement, asked: Range): Picked | null {
  const text = textOfPage(words);
  const { start, end } = toGraphemes(text, asked);
  const surface = words.closest<HTMLElement>("[data-surface]");
  const page = Number(words.closest<HTMLElement>("[data-page]")?.dataset.page);
  const itemId = words.closest<HTMLElement>("[data-item]")?.dataset.item;
  const boxes = surface ? boxesOf(words, surface, { start, end }) : [];
  const area = around(boxes);
  if (!itemId || !page || !area) return null;
  return {
    on: "page",
    itemId,
    page,
    words: { start, end, boxes },
    area,
    quote: sayWords(text, { start, end }),
  };
}

/** Selects words of a page on the screen and brings them into view. */
export function selectOnPage(words: HTMLElement, { start, end }: Range): void {
  const range = rangeOf(words, start, end);
  if (!range) return;
  const selection = window.getSelection();
  selection?.removeAllRanges();
  selection?.addRange(range);
  range.startContainer.parentElement?.scrollIntoView({ block: "nearest" });
}

const closest = (node: Node, selector: string): HTMLElement | null =>
  (node instanceof Element ? node : node.parentElement)?.closest<HTMLElement>(selector) ?? null;

function offsetIn(words: HTMLElement, node: Node, offset: number): number | null {
  const run = closest(node, "[data-run]");
  if (run && words.contains(run)) {
    const before = offset > 0 ? (run.textContent?.length ?? 0) : 0;
    return Number(run.dataset.run) + (node.nodeType === Node.TEXT_NODE ? offset : before);
  }
  // Between runs: the one that follows counts.
  const child = node.childNodes[offset] ?? null;
  const next = child instanceof HTMLElement ? runIn(child) : null;
  return next ? Number(next.dataset.run) : textOfPage(words).length;
}

function rangeOf(words: HTMLElement, start: number, end: number): globalThis.Range | null {
  const point = (at: number, last: boolean) => {
    for (const run of words.querySelectorAll<HTMLElement>("[data-run]")) {
      const from = Number(run.dataset.run);
      const length = run.textContent?.length ?? 0;
      const inside = last ? at > from && at <= from + length : at >= from && at < from + length;
      if (inside && run.firstChild) return { node: run.firstChild, offset: at - from };
    }
    return null;
  };
  const [a, b] = [point(start, false), point(end, true)];
  if (!a || !b) return null;
  const range = document.createRange();
  range.setStart(a.node, a.offset);
  range.setEnd(b.node, b.offset);
  return range;
}

/** The boxes of words in per cent of their page, those of one line joined. */
function boxesOf(words: HTMLElement, surface: HTMLElement, { start, end }: Range): Area[] {
  const range = rangeOf(words, start, end);
  if (!range || surface.clientWidth === 0) return [];
  const boxes = [...range.getClientRects()]
    .filter((r) => r.width > 0.5 && r.height > 0.5)
    .map((r) => areaOn(surface, r));
  return joinLines(boxes).map(clampArea);
}

/** Boxes whose middles lie on one line become one. */
function joinLines(boxes: readonly Area[]): Area[] {
  return boxes.reduce<Area[]>((lines, box) => {
    const last = lines.at(-1);
    const middle = box.y + box.h / 2;
    if (!last || middle < last.y || middle > last.y + last.h) return [...lines, box];
    const left = Math.min(last.x, box.x);
    const top = Math.min(last.y, box.y);
    return [
      ...lines.slice(0, -1),
      {
        x: left,
        y: top,
        w: Math.max(last.x + last.w, box.x + box.w) - left,
        h: Math.max(last.y + last.h, box.y + box.h) - top,
      },
    ];
  }, []);
}

const runIn = (element: HTMLElement): HTMLElement | null =>
  element.matches("[data-run]") ? element : element.querySelector<HTMLElement>("[data-run]");
