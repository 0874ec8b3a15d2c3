"use client";

import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { BackLine } from "@/core/views/handBackViews";
import type { PieceView } from "@/core/views/views";
import { call, sayProblem } from "../client";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { Piece } from "../piece/Piece";
import type { How } from "./HowItGoes";

/** A draft as its student will see it; nothing in it can be pressed. */
export function AsStudent({
  line,
  how,
  onClose,
}: {
  line: BackLine;
  how: Pick<How, "outcome" | "due" | "scores" | "tellScore">;
  onClose: () => void;
}) {
  const [view, setView] = useState<PieceView | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { outcome, due } = how;
  const scores = how.scores === "now" ? "" : "later";
  const told = how.tellScore ? "yes" : "";
  useEffect(() => {
    let wanted = true;
    call(contract.asStudent, {
      params: { pieceId: line.pieceId },
      query: { outcome, due, scores, told },
    }).then(
      (found) => wanted && setView(found),
      (error: unknown) => wanted && setProblem(sayProblem(error)),
    );
    return () => {
      wanted = false;
    };
  }, [line.pieceId, outcome, due, scores, told]);
  return (
    <Dialog open wide onClose={onClose} title={`What ${line.student} will see`}>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {view ? (
        <div inert className="-mx-4 border-t border-line">
          <Piece first={view} onlyShown />
        </div>
      ) : null}
      {!view && !problem ? (
        <p role="status" className="text-soft">
          Fetching it …
        </p>
      ) : null}
    </Dialog>
  );
}
