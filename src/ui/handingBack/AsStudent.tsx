"use client";

import { contract } from "@/core/api/contract";
import type { BackLine } from "@/core/views/handBackViews";
import { call } from "../client";
import { useFetched } from "../useFetched";
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
  const { outcome, due } = how;
  const scores = how.scores === "now" ? "" : "later";
  const told = how.tellScore ? "yes" : "";
  const query = { outcome, due, scores, told };
  const { found: view, problem } = useFetched(JSON.stringify([line.pieceId, query]), () =>
    call(contract.asStudent, { params: { pieceId: line.pieceId }, query }),
  );
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
