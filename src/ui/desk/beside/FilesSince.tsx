"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { DeskPiece, VersionShown } from "@/core/views/deskViews";
import { call } from "../../client";
import { Button } from "../../kit/Button";
import { useAct } from "../../useAct";
import { ComparedFiles } from "../compared/ComparedFiles";

/** The files and answers of the round before beside those on the Desk, fetched when they are asked for. */
export function FilesSince({ piece }: { piece: DeskPiece }) {
  const { act, busy, problem } = useAct();
  const [shown, setShown] = useState<VersionShown | null>(null);
  const before = piece.versions.find((version) => version.round < piece.round);
  const what = sayWhat(piece);
  if (!before || !what) return null;
  const open = () =>
    act(() =>
      call(contract.deskVersion, { params: { pieceId: piece.id, versionId: before.id } }),
    ).then((found) => setShown(found ?? null));
  return (
    <>
      <Button small ink="quiet" disabled={busy} onClick={() => void open()}>
        {what} of round {before.round} and now
      </Button>
      {problem ? <span className="text-ember">▲ {problem}</span> : null}
      {shown ? (
        <ComparedFiles
          before={shown}
          after={piece}
          earlier={`round ${shown.round}`}
          onClose={() => setShown(null)}
        />
      ) : null}
    </>
  );
}

function sayWhat({ items, sheets }: DeskPiece): string | null {
  if (items.length > 0) return sheets.length > 0 ? "Files and answers" : "Files";
  return sheets.length > 0 ? "Answers" : null;
}
