"use client";

import { useCallback, useMemo, useRef, type RefObject } from "react";
import type { AnsweredMark, MessageView } from "@/core/views/views";
import { inReadingOrder } from "../marks/drawn";
import { classes } from "../kit/classes";
import { useMargin } from "../text/useMargin";
import { CameBackNote } from "./CameBackNote";

/** On a narrow screen the note of what is chosen stands over the foot of the page, and its words above it. */
const OVER_THE_FOOT =
  "max-lg:fixed max-lg:inset-x-0 max-lg:top-auto! max-lg:bottom-0 max-lg:z-30 max-lg:max-h-[45dvh] max-lg:overflow-y-auto max-lg:border-t max-lg:border-line-strong max-lg:bg-raised max-lg:px-4 max-lg:py-3 max-lg:shadow-lifted";

type Acts = {
  onTick: (mark: AnsweredMark, done: boolean) => void;
  onDecide: (mark: AnsweredMark, decision: "accepted" | "declined" | null) => void;
  /** Why the page cannot make the change of an edit itself; null: it can. */
  whyNot?: (mark: AnsweredMark) => "there" | "changed" | "gone" | null;
};

/** The student's margin: each mark that came back, level with its words. Below the text on small screens. */
export function MarginOfPiece({
  sheet,
  marks,
  numbers,
  pieceId,
  chosen,
  setChosen,
  acts,
  onReply,
  signal,
}: {
  sheet: RefObject<HTMLElement | null>;
  marks: readonly AnsweredMark[];
  /** What stands on the pins. */ numbers?: ReadonlyMap<string, number>;
  pieceId: string;
  chosen: string | null;
  setChosen: (id: string | null) => void;
  /** Null: the piece is not out for revision, so there is nothing to answer. */ acts: Acts | null;
  onReply: (mark: AnsweredMark, message: MessageView) => void;
  signal?: unknown;
}) {
  const margin = useRef<HTMLDivElement>(null);
  const ordered = useMemo(() => inReadingOrder(marks), [marks]);
  const words = useCallback(() => sheet.current, [sheet]);
  const { tops, height } = useMargin({
    sheet: words,
    margin,
    ids: ordered.map((m) => m.id),
    signal,
  });
  return (
    <div
      ref={margin}
      className="relative max-lg:mt-8 max-lg:space-y-4"
      style={{ minHeight: height }}
      role="complementary"
      aria-label="What came back, beside its words"
    >
      {ordered.map((mark) => (
        <div
          key={mark.id}
          data-note={mark.id}
          className={classes(
            "lg:absolute lg:inset-x-0",
            acts !== null && chosen === mark.id && OVER_THE_FOOT,
          )}
          style={{ top: tops.get(mark.id) ?? 0, opacity: tops.has(mark.id) ? 1 : 0 }}
        >
          <CameBackNote
            mark={mark}
            number={numbers?.get(mark.id)}
            pieceId={pieceId}
            chosen={chosen === mark.id}
            active={acts !== null}
            onChoose={() => setChosen(mark.id)}
            onLeave={() => setChosen(null)}
            onTick={(m, done) => acts?.onTick(m, done)}
            onDecide={(m, d) => acts?.onDecide(m, d)}
            whyNot={acts?.whyNot}
            onReply={onReply}
          />
        </div>
      ))}
    </div>
  );
}
