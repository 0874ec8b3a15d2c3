"use client";

import { useRef, useState } from "react";
import type { PieceView } from "@/core/views/views";
import { drawnOnWords, isOnFile, placedMark } from "../../marks/answered";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { classes } from "../../kit/classes";
import { isEmptyDoc } from "@/core/text/plainText";
import { RichText } from "../../text/RichText";
import { HandedInParts } from "./HandedInParts";
import { numbersOf } from "../../marks/drawn";
import { lookClass, useLook } from "../writing/look";
import { MarkedInText } from "../MarkedInText";
import { MarginOfPiece } from "../MarginOfPiece";
import { patchMark, type SetView } from "../useAnswers";

/** The piece while it cannot be written: as it was handed in, and after hand-back with its marks. */
export function HandedIn({
  view,
  setView,
  onTakeBack,
}: {
  view: PieceView;
  setView: SetView;
  onTakeBack: () => void;
}) {
  const sheet = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  // On their own device work looks, and prints, as its writer has chosen.
  const [look] = useLook();
  // What the teacher said belongs to the round before; what classmates say is of this.
  const marks =
    view.moon.state === "handed_in" ? view.marks.filter((mark) => mark.from) : view.marks;
  const drawn = drawnOnWords(marks);
  const placed = marks.filter(isOnFile).map(placedMark);
  const numbers = numbersOf(placed);
  return (
    <section aria-label="My work">
      <Notice
        ink={view.moon.state === "handed_in" ? "tide" : "moss"}
        className="mb-5 max-w-[42rem]"
        acts={
          view.mayTakeBack ? (
            <Button small onClick={onTakeBack}>
              Take it back to change it
            </Button>
          ) : undefined
        }
      >
        {sayWhere(view)}
      </Notice>
      <div
        className={classes(
          "relative grid gap-x-8",
          marks.length > 0 && "lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]",
        )}
      >
        <div ref={sheet} className={classes("max-w-[42rem] min-w-0", lookClass(look))}>
          {isEmptyDoc(view.work.doc) ? null : (
            <MarkedInText
              items={view.items}
              marks={placed}
              numbers={numbers}
              chosen={chosen}
              onChoose={setChosen}
            >
              <RichText doc={view.work.doc} marks={drawn} chosen={chosen} onMark={setChosen} />
            </MarkedInText>
          )}
          <HandedInParts
            view={view}
            marks={placed}
            numbers={numbers}
            chosen={chosen}
            onChoose={setChosen}
          />
        </div>
        {marks.length > 0 ? (
          <MarginOfPiece
            sheet={sheet}
            marks={marks}
            numbers={numbers}
            pieceId={view.id}
            chosen={chosen}
            setChosen={setChosen}
            acts={null}
            onReply={(m, message) =>
              patchMark(setView)(m.id, (old) => ({ ...old, messages: [...old.messages, message] }))
            }
          />
        ) : null}
      </div>
    </section>
  );
}

function sayWhere(view: PieceView): string | null {
  if (view.moon.state !== "handed_in") return view.locked;
  if (!view.mayTakeBack) return view.takeBackRefused ?? view.locked;
  return "Handed in. You can take it back to change it until it is due, as long as nobody has begun to read it.";
}
