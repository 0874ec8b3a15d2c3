"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call, sayProblem } from "../../client";
import { FileButton } from "../../kit/FileButton";

/** The notes of a recording out as WebVTT, and in. */
export function VttExchange({ itemId, onBrought }: { itemId: string; onBrought: () => void }) {
  const [said, setSaid] = useState<string | null>(null);
  async function bring(file: File) {
    try {
      const { added, faults } = await call(contract.bringMoments, {
        params: { itemId },
        body: { vtt: await file.text() },
      });
      setSaid([`${added} ${added === 1 ? "note" : "notes"} brought in.`, ...faults].join(" "));
      if (added > 0) onBrought();
    } catch (error) {
      setSaid(sayProblem(error));
    }
  }
  return (
    <span className="flex flex-wrap items-center gap-2 text-sm">
      <a href={`/api/items/${itemId}/notes`} download="notes.vtt">
        Notes as WebVTT
      </a>
      <FileButton small accept=".vtt,text/vtt" onFile={(file) => void bring(file)}>
        Bring WebVTT in
      </FileButton>
      {said ? <span role="status">{said}</span> : null}
    </span>
  );
}
