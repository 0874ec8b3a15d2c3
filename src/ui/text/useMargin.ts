"use client";

import { useLayoutEffect, useState, type RefObject } from "react";
import { layOutMargin } from "@/core/marks/marginLayout";

const GAP = 8;

type Asked = {
  /** Where the words are. */
  sheet: () => HTMLElement | null;
  margin: RefObject<HTMLElement | null>;
  /** The notes in the order of their words; those without words on the page come last. */
  ids: readonly string[];
  /** Where a note stands that is not on words: its top on the screen. */
  placeOf?: (id: string) => number | null;
  /** Whatever moves words or notes without changing which there are. */
  signal?: unknown;
  /** Off: the notes stand elsewhere, and nothing is measured. */ on?: boolean;
};

/**
 * Tops for the notes of a margin, level with their words as far as there is room. Measures the words
 * (`[data-mark]` in the sheet) and the notes (`[data-note]` in the margin) after each drawing.
 */
export function useMargin({ sheet, margin, ids, placeOf, signal, on = true }: Asked) {
  const [layout, setLayout] = useState<{ tops: ReadonlyMap<string, number>; height: number }>({
    tops: new Map(),
    height: 0,
  });
  const key = ids.join(" ");
  useLayoutEffect(() => {
    if (!on) return;
    const measure = () => {
      const words = sheet();
      if (!words || !margin.current) return;
      const top = margin.current.getBoundingClientRect().top;
      const notes = [...margin.current.querySelectorAll<HTMLElement>("[data-note]")].map(
        (note) => ({ id: note.dataset.note!, height: note.offsetHeight }),
      );
      // Once for all: asked for one by one, three hundred marks on a long text take longer than a frame.
      const drawn = new Map<string, Element>();
      for (const element of words.querySelectorAll<HTMLElement>("[data-mark]"))
        if (!drawn.has(element.dataset.mark!)) drawn.set(element.dataset.mark!, element);
      const wantedOf = (id: string) => {
        const given = placeOf?.(id);
        if (given !== undefined && given !== null) return given - top;
        const mark = drawn.get(id);
        return mark ? mark.getBoundingClientRect().top - top : Number.MAX_SAFE_INTEGER;
      };
      const order = new Map(ids.map((id, n) => [id, n]));
      const placed = notes
        .map((note) => ({ ...note, wanted: wantedOf(note.id) }))
        .sort((a, b) => a.wanted - b.wanted || (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0));
      const last = placed.findLast((note) => note.wanted < Number.MAX_SAFE_INTEGER);
      const below = last ? last.wanted + last.height + GAP : 0;
      const tops = layOutMargin(
        placed.map((note) =>
          note.wanted === Number.MAX_SAFE_INTEGER ? { ...note, wanted: below } : note,
        ),
        GAP,
      );
      const height = Math.max(0, ...placed.map((note) => (tops.get(note.id) ?? 0) + note.height));
      setLayout((old) => (old.height === height && same(old.tops, tops) ? old : { tops, height }));
    };
    measure();
    const observer = new ResizeObserver(measure);
    const observed = sheet();
    if (observed) observer.observe(observed);
    margin.current?.querySelectorAll("[data-note]").forEach((note) => observer.observe(note));
    return () => observer.disconnect();
    // `ids` by its joined key; placeOf is read anew at each measuring.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, sheet, margin, signal, on]);
  return layout;
}

function same(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): boolean {
  return a.size === b.size && [...a].every(([id, top]) => b.get(id) === top);
}
