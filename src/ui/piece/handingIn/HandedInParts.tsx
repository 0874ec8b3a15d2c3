"use client";

import dynamic from "next/dynamic";
import { sayPart } from "@/core/handouts/parts";
import type { PieceView } from "@/core/views/views";
import { itemOf } from "@/core/marks/place";
import type { PlacedMark } from "../../marks/drawn";
import { MarkedFile } from "../MarkedFiles";

const QuestionsPart = dynamic(() => import("../parts/QuestionsPart").then((m) => m.QuestionsPart), {
  ssr: false,
});

const NONE: ReadonlyMap<string, number> = new Map();

/** The files and answers of a piece that cannot be changed now, part by part. */
export function HandedInParts({
  view,
  marks = [],
  numbers = NONE,
  chosen = null,
  onChoose = () => {},
}: {
  view: PieceView;
  marks?: readonly PlacedMark[];
  numbers?: ReadonlyMap<string, number>;
  chosen?: string | null;
  onChoose?: (id: string) => void;
}) {
  return view.parts.map((part) => {
    const own = view.items.filter((i) => i.partId === part.id);
    if (part.kind === "writing" || (own.length === 0 && !part.questions)) return null;
    return (
      <section key={part.id} aria-label={sayPart(part)} className="mt-8">
        <h2 className="border-b border-line pb-1">
          {sayPart(part).replace(/^./, (c) => c.toUpperCase())}
        </h2>
        {own.map((item) => (
          <MarkedFile
            key={item.id}
            item={item}
            marks={marks.filter((m) => itemOf(m.place) === item.id)}
            numbers={numbers}
            chosen={chosen}
            onChoose={onChoose}
          />
        ))}
        {part.questions ? (
          <QuestionsPart
            part={part}
            pieceId={view.id}
            given={view.work.answers[part.id] ?? {}}
            onAnswer={() => {}}
            locked
          />
        ) : null}
      </section>
    );
  });
}
