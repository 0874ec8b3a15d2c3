"use client";

import { useLayoutEffect, useRef, useState, useSyncExternalStore, type RefObject } from "react";

/** Narrower than this there is no room for a margin beside the words (Tailwind's `lg`). */
const NARROW = "(max-width: 63.99rem)";

function watchNarrow(onChange: () => void): () => void {
  const query = window.matchMedia(NARROW);
  query.addEventListener("change", onChange);
  return () => query.removeEventListener("change", onChange);
}

/** Whether notes stand under their paragraph instead of beside it. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    watchNarrow,
    () => window.matchMedia(NARROW).matches,
    () => false,
  );

/** How a margin and its notes lie: beside the words, or on a narrow screen over the room that is kept under them. */
export const MARGIN =
  "relative max-lg:absolute max-lg:inset-x-0 max-lg:top-0 print:static print:min-h-0! print:space-y-4";
export const NOTE = "absolute inset-x-0 print:static print:opacity-100!";

/** Room that is to be kept under the paragraph in which these marks end, in pixels. */
export type Gap = { markId: string; px: number };

type Asked = {
  sheet: () => HTMLElement | null;
  margin: RefObject<HTMLElement | null>;
  /** The notes in the order of their words. */ ids: readonly string[];
  signal?: unknown;
  /** Off: nothing is measured, and no room is kept. */ on: boolean;
  /** Where someone writes the editor keeps the room itself; elsewhere it is kept on the elements. */
  setGaps?: (gaps: readonly Gap[]) => void;
};

const SPACE = 8;
/** What a note stands under: the paragraph, the whole of a table or of a file. */
const WHOLES = ".tableWrapper, table, figure";
const BLOCKS = "p, h1, h2, h3, h4, h5, h6, pre, li";

/**
 * Tops for notes that stand under the paragraph of their words, where room is made for them; notes without words on
 * the page come after all of it. Nothing is put into the writing: its paragraphs only stand further apart.
 */
export function useUnderWords({ sheet, margin, ids, signal, on, setGaps }: Asked) {
  const [tops, setTops] = useState<ReadonlyMap<string, number>>(new Map());
  const held = useRef<HTMLElement[]>([]);
  const key = ids.join(" ");
  useLayoutEffect(() => {
    const words = sheet();
    if (!on || !words || !margin.current) return;
    let last = "";
    const measure = () => {
      if (!margin.current) return;
      const groups = groupsOf(words, margin.current, ids);
      const gaps = groups.map((group) => ({ ...group, px: heightOf(group.notes) }));
      const said = gaps
        .map(({ px, notes, block }) => `${notes[0]!.id} ${px} ${isWritten(block)}`)
        .join();
      // Words that are drawn anew stand on other elements.
      if (said !== last || held.current.some((block) => !block.isConnected)) {
        last = said;
        letGo(held.current);
        held.current = keep(gaps);
        setGaps?.(
          gaps.filter((g) => isWritten(g.block)).map((g) => ({ markId: g.notes[0]!.id, px: g.px })),
        );
      }
      const next = stacked(groupsOf(words, margin.current, ids), margin.current);
      setTops((old) => (same(old, next) ? old : next));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(words);
    margin.current.querySelectorAll("[data-note]").forEach((note) => observer.observe(note));
    const elements = held;
    return () => {
      observer.disconnect();
      letGo(elements.current);
      setGaps?.([]);
    };
    // `ids` by its joined key.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, sheet, margin, signal, on]);
  return tops;
}

type Note = { id: string; height: number };
type Group = { block: HTMLElement; notes: Note[] };

/** The notes by what they stand under, in the order they came; those without words under the whole. */
function groupsOf(words: HTMLElement, margin: HTMLElement, ids: readonly string[]): Group[] {
  const heights = new Map(
    [...margin.querySelectorAll<HTMLElement>("[data-note]")].map((note) => [
      note.dataset.note!,
      note.offsetHeight,
    ]),
  );
  const drawn = new Map<string, Element>();
  for (const element of words.querySelectorAll<HTMLElement>("[data-mark]"))
    drawn.set(element.dataset.mark!, element);
  const groups = new Map<HTMLElement, Note[]>();
  for (const id of ids) {
    const block = blockOf(drawn.get(id)) ?? words;
    groups.set(block, [...(groups.get(block) ?? []), { id, height: heights.get(id) ?? 0 }]);
  }
  return [...groups].map(([block, notes]) => ({ block, notes }));
}

const blockOf = (mark: Element | undefined): HTMLElement | null =>
  mark?.closest<HTMLElement>(WHOLES) ?? mark?.closest<HTMLElement>(BLOCKS) ?? null;

const heightOf = (notes: readonly Note[]): number =>
  notes.reduce((sum, note) => sum + note.height + SPACE, SPACE);

const isWritten = (block: HTMLElement): boolean => block.closest("[contenteditable=true]") !== null;

function keep(gaps: readonly (Group & { px: number })[]): HTMLElement[] {
  return gaps.flatMap(({ block, px }) => {
    if (isWritten(block)) return [];
    block.dataset.gap = "";
    block.style.setProperty("--gap", `${px}px`);
    return [block];
  });
}

function letGo(blocks: readonly HTMLElement[]): void {
  for (const block of blocks) {
    delete block.dataset.gap;
    block.style.removeProperty("--gap");
  }
}

function stacked(groups: readonly Group[], margin: HTMLElement): Map<string, number> {
  const top = margin.getBoundingClientRect().top;
  const tops = new Map<string, number>();
  for (const { block, notes } of groups) {
    let at = block.getBoundingClientRect().bottom - top + SPACE;
    for (const { id, height } of notes) {
      tops.set(id, at);
      at += height + SPACE;
    }
  }
  return tops;
}

const same = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): boolean =>
  a.size === b.size && [...b].every(([id, top]) => a.get(id) === top);
