"use client";

import { useCallback, useMemo, useRef, type RefObject } from "react";
import type { AnsweredMark, MessageView } from "@/core/views/views";
import { inReadingOrder } from "../marks/drawn";
import { useMargin } from "../text/useMargin";
import { MARGIN, NOTE, useNarrow, useUnderWords, type Gap } from "../text/useUnderWords";
import { CameBackNote } from "./CameBackNote";

type Acts = {
  onTick: (mark: AnsweredMark, done: boolean) => void;
  onDecide: (mark: AnsweredMark, decision: "accepted" | "declined" | null) => void;
  /** Why the page cannot make the change of an edit itself; null: it can. */
  whyNot?: (mark: AnsweredMark) => "there" | "changed" | "gone" | null;
};

/** The student's margin: each mark that came back, level with its words. Under their paragraph on narrow screens. */
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
  setGaps,
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
  /** Where the words are being written: how room is made under them. */
  setGaps?: (gaps: readonly Gap[]) => void;
}) {
  const margin = useRef<HTMLDivElement>(null);
  const ordered = useMemo(() => inReadingOrder(marks), [marks]);
  const words = useCallback(() => sheet.current, [sheet]);
  const narrow = useNarrow();
  const asked = { sheet: words, margin, ids: ordered.map((m) => m.id), signal };
  const beside = useMargin({ ...asked, on: !narrow });
  const under = useUnderWords({ ...asked, on: narrow, setGaps });
  const tops = narrow ? under : beside.tops;
  return (
    <div
      ref={margin}
      className={MARGIN}
      style={{ minHeight: narrow ? 0 : beside.height }}
      role="complementary"
      aria-label="What came back, beside its words"
    >
      {ordered.map((mark) => (
        <div
          key={mark.id}
          data-note={mark.id}
          className={NOTE}
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
