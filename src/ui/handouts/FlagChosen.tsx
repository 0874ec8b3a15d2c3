"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import { SIGNS, type Sign } from "@/core/pieces/flags";
import { sayCount } from "@/core/text/sayCount";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { FlagSign } from "../kit/FlagSign";
import { useAct } from "../useAct";

/** A flag, or excused, for all who are chosen; what is read without its name is left out and counted. */
export function FlagChosen({
  sheet,
  chosen,
}: {
  sheet: HandOutSheet;
  chosen: readonly SheetLine[];
}) {
  const { act, busy, problem } = useAct();
  const [said, setSaid] = useState("");
  const named = chosen.filter((line) => line.onDesk);
  async function flag(sign: Sign | null): Promise<void> {
    const pieceIds = named.map((line) => line.pieceId);
    const done = await act(() =>
      call(contract.flagMany, { params: { handOutId: sheet.id }, body: { pieceIds, sign } }),
    );
    if (done) setSaid(`${sayCount(done.changed, "student")} changed.`);
  }
  return (
    <div role="group" aria-label="Flag those chosen" className="flex flex-wrap items-center gap-1">
      {SIGNS.map((sign) =>
        sign === "excused" && !sheet.mayHandBack ? null : (
          <Button
            key={sign}
            small
            aria-label={sign}
            disabled={busy || named.length === 0}
            onClick={() => void flag(sign)}
          >
            <FlagSign flag={sign} /> {sign}
          </Button>
        ),
      )}
      <Button small disabled={busy || named.length === 0} onClick={() => void flag(null)}>
        no flag
      </Button>
      <span role="status" className="text-sm text-soft">
        {problem ?? said}
        {named.length < chosen.length
          ? ` ${sayCount(chosen.length - named.length, "piece is", "pieces are")} read without names and left out.`
          : ""}
      </span>
    </div>
  );
}
