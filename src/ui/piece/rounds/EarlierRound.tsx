"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { RoundView } from "@/core/views/views";
import { drawnOnWords, isOnFile, placedMark } from "../../marks/answered";
import { call } from "../../client";
import { useFetched } from "../../useFetched";
import { Dialog } from "../../kit/Dialog";
import { Notice } from "../../kit/Notice";
import { numbersOf } from "../../marks/drawn";
import { RubricTable } from "../../rubrics/RubricTable";
import { RichText } from "../../text/RichText";
import { ClipsProvider } from "../../voice/clips";
import { isEmptyDoc } from "@/core/text/plainText";
import { ReturnedFiles } from "./ReturnedFiles";
import { MarkedInText } from "../MarkedInText";
import { MarkedFile } from "../MarkedFiles";
import { MarginOfPiece } from "../MarginOfPiece";

/** A round as it came back: what was said, with its marks on the version they were made on; to be read only. */
export function EarlierRound({
  pieceId,
  round,
  onClose,
}: {
  pieceId: string;
  round: number;
  onClose: () => void;
}) {
  const { found: view, problem } = useFetched(`${pieceId} ${round}`, () =>
    call(contract.round, { params: { pieceId }, query: { number: String(round) } }),
  );
  return (
    <Dialog open wide onClose={onClose} title={`Round ${round}, as it came back`}>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {!view && !problem ? (
        <p role="status" className="text-soft">
          Fetching it …
        </p>
      ) : null}
      {view ? (
        <ClipsProvider clips={view.clips} mostSeconds={60}>
          <Round view={view} pieceId={pieceId} />
        </ClipsProvider>
      ) : null}
    </Dialog>
  );
}

function Round({ view, pieceId }: { view: RoundView; pieceId: string }) {
  const sheet = useRef<HTMLDivElement>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const { back, marks } = view;
  const placed = marks.filter(isOnFile).map(placedMark);
  const numbers = numbersOf(placed);
  const drawn = drawnOnWords(marks);
  return (
    <>
      <p className="text-soft">
        {back.by}, {back.when}
        {back.outcome === "revise" ? ", to revise" : ""}
        {view.handedIn ? ` · on what was handed in ${view.handedIn}` : ""}
      </p>
      {back.overall ? (
        <p className="mt-2 border-l-2 border-tide pl-4 font-serif text-lg whitespace-pre-wrap">
          {back.overall}
        </p>
      ) : null}
      {back.score ? (
        <p className="mt-2">
          <strong>score {back.score}</strong>{" "}
          <span className="text-sm text-soft">{back.deduction}</span>
        </p>
      ) : null}
      <ReturnedFiles files={back.files} />
      {back.rubric ? <RubricTable rubric={back.rubric.whole} picks={back.rubric.picks} /> : null}
      <div className="relative mt-4 grid gap-x-6 lg:grid-cols-[minmax(0,1fr)_16rem]">
        <div ref={sheet} className="min-w-0">
          {isEmptyDoc(view.doc) ? null : (
            <MarkedInText
              items={view.items}
              marks={placed}
              numbers={numbers}
              chosen={chosen}
              onChoose={setChosen}
            >
              <RichText doc={view.doc} marks={drawn} chosen={chosen} onMark={setChosen} />
            </MarkedInText>
          )}
          {view.items
            .filter((item) => view.markedItems.includes(item.id) && !item.inText)
            .map((item) => (
              <MarkedFile
                key={item.id}
                item={item}
                marks={placed.filter((m) => "itemId" in m.place && m.place.itemId === item.id)}
                numbers={numbers}
                chosen={chosen}
                onChoose={setChosen}
              />
            ))}
        </div>
        {marks.length > 0 ? (
          <MarginOfPiece
            sheet={sheet}
            marks={marks}
            numbers={numbers}
            pieceId={pieceId}
            chosen={chosen}
            setChosen={setChosen}
            acts={null}
            onReply={() => undefined}
            signal={view.round}
          />
        ) : null}
      </div>
    </>
  );
}
