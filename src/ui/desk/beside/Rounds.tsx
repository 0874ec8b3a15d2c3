"use client";

import { useState } from "react";
import { Button } from "../../kit/Button";
import { ScoreChanges } from "../../piece/rounds/ScoreChanges";
import { TypedScores } from "../../piece/rounds/TypedScores";
import { EarlierRound } from "../../piece/rounds/EarlierRound";
import { usePieceOnDesk } from "../model";

/** What came back in each round, side by side with its score, and how the score that counts comes about. */
export function Rounds() {
  const { piece } = usePieceOnDesk();
  const [open, setOpen] = useState<number | null>(null);
  return (
    <>
      {piece.rounds.length > 0 ? (
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col">round</th>
              <th scope="col">came back</th>
              <th scope="col">score</th>
              <th scope="col">
                <span className="sr-only">open</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {piece.rounds.map((round) => (
              <tr key={round.round}>
                <th scope="row" className="font-normal">
                  {round.round}
                </th>
                <td>
                  {round.when}, {round.outcome === "revise" ? "to revise" : "for good"}
                </td>
                <td className="whitespace-nowrap">{round.score ?? "–"}</td>
                <td>
                  <Button small onClick={() => setOpen(round.round)}>
                    Open<span className="sr-only"> round {round.round}</span>
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      <ScoreChanges changes={piece.scoreChanges} />
      {piece.finalWords ? <p className="mt-2">{piece.finalWords}</p> : null}
      <TypedScores scores={piece.typedScores} />
      {open === null ? null : (
        <EarlierRound pieceId={piece.id} round={open} onClose={() => setOpen(null)} />
      )}
    </>
  );
}
