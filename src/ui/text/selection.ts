import type { Range } from "@/core/text/selectors";

/**
 * The offsets of what is selected inside `root`, as RichText numbered them; null when nothing in it
 * is. A caret counts as an empty range.
 */
export function selectedRange(root: HTMLElement): Range | null {
  const selection = window.getSelection();
  if (!selection || selection.rangeCount === 0) return null;
  const range = selection.getRangeAt(0);
  if (!root.contains(range.startContainer) || !root.contains(range.endContainer)) return null;
  // The words of a page that stands in the writing are that file's.
  if (inFile(range.startContainer) || inFile(range.endContainer)) return null;
  const start = offsetOf(root, range.startContainer, range.startOffset, "forward");
  const end = range.collapsed ? start : offsetOf(root, range.endContainer, range.endOffset, "back");
  return start === null || end === null || end < start ? null : { start, end };
}

const inFile = (node: Node): boolean =>
  Boolean((node instanceof Element ? node : node.parentElement)?.closest("[data-file-here]"));

function offsetOf(
  root: HTMLElement,
  node: Node,
  offset: number,
  toward: "forward" | "back",
): number | null {
  const own = (node instanceof Element ? node : node.parentElement)?.closest<HTMLElement>(
    "[data-at]",
  );
  if (own && root.contains(own)) {
    const length = own.textContent === "\u200b" ? 0 : (own.textContent?.length ?? 0);
    const beside = offset === 0 ? 0 : length;
    const within = node.nodeType === Node.TEXT_NODE ? Math.min(offset, length) : beside;
    return Number(own.dataset.at) + within;
  }
  // The edge lies between runs (a paragraph's end, a sign of the program): the nearest run counts.
  const edge = document.createRange();
  edge.setStart(node, offset);
  const runs = [...root.querySelectorAll<HTMLElement>("[data-at]")];
  if (toward === "forward") {
    const next = runs.find((run) => edge.comparePoint(run, 0) >= 0);
    return next ? Number(next.dataset.at) : null;
  }
  const previous = runs.filter((run) => edge.comparePoint(run, 0) < 0).at(-1);
  return previous
    ? Number(previous.dataset.at) +
        (previous.textContent === "\u200b" ? 0 : (previous.textContent?.length ?? 0))
    : null;
}

/** Selects a range of offsets on the page, and brings it into view. */
export function selectRange(root: HTMLElement, { start, end }: Range): void {
  const from = pointAt(root, start, false);
  const to = pointAt(root, end, true);
  if (!from || !to) return;
  const range = document.createRange();
  range.setStart(from.node, from.offset);
  range.setEnd(to.node, to.offset);
  const selection = window.getSelection();
  selection?.removeAllRanges();
  selection?.addRange(range);
  (from.node.parentElement ?? root).scrollIntoView({ block: "nearest" });
}

function pointAt(
  root: HTMLElement,
  at: number,
  end: boolean,
): { node: Node; offset: number } | null {
  for (const run of root.querySelectorAll<HTMLElement>("[data-at]")) {
    const start = Number(run.dataset.at);
    const length = run.textContent?.length ?? 0;
    if (at < start || at > start + length || (!end && at === start + length && length > 0))
      continue;
    const text = run.firstChild;
    if (text) return { node: text, offset: at - start };
  }
  return null;
}
