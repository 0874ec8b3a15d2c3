"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { DeskPiece } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { FileButton } from "../../kit/FileButton";
import { Notice } from "../../kit/Notice";

/** Marks in and out as W3C Web Annotations: an open file that other programs read and write. */
export function Exchange({ piece, onBrought }: { piece: DeskPiece; onBrought: () => void }) {
  const [said, setSaid] = useState<{
    ink: "moss" | "ember";
    words: string;
    faults: string[];
  } | null>(null);
  async function bring(file: File) {
    try {
      const { added, faults } = await call(contract.bringAnnotations, {
        params: { pieceId: piece.id },
        body: { text: await file.text() },
      });
      setSaid({
        ink: faults.length > 0 ? "ember" : "moss",
        words: `${added} ${added === 1 ? "mark" : "marks"} brought in${faults.length > 0 ? `; ${faults.length} could not be` : ""}. Marks that were there already stay as they are.`,
        faults,
      });
      onBrought();
    } catch (error) {
      setSaid({ ink: "ember", words: sayProblem(error), faults: [] });
    }
  }
  return (
    <>
      <p className="mb-3 text-soft">
        The marks of this draft as web annotations (JSON-LD, a W3C recommendation). What is brought
        in becomes part of the draft.
      </p>
      <p className="mb-4 flex flex-wrap gap-3">
        <a href={`/api/pieces/${piece.id}/annotations`} download>
          Take {piece.marks.length} {piece.marks.length === 1 ? "mark" : "marks"} out
        </a>
        <FileButton
          small
          accept=".jsonld,.json,application/ld+json,application/json"
          onFile={(file) => void bring(file)}
        >
          Bring marks in
        </FileButton>
      </p>
      {said ? (
        <Notice ink={said.ink}>
          {said.words}
          {said.faults.length > 0 ? (
            <ul className="mt-1 list-disc pl-5">
              {said.faults.slice(0, 20).map((f) => (
                <li key={f}>{f}</li>
              ))}
            </ul>
          ) : null}
        </Notice>
      ) : null}
    </>
  );
}
