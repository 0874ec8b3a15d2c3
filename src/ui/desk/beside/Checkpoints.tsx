"use client";

import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import { useEffect, useState } from "react";
import { contract } from "@/core/api/contract";
import type { Comparison } from "@/core/text/compare";
import type { CheckpointView } from "@/core/views/workViews";
import type { MessageView } from "@/core/views/views";
import type { DeskPiece } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { SelectField } from "../../kit/Choices";
import { Dialog } from "../../kit/Dialog";
import { classes } from "../../kit/classes";
import { ItemShown } from "../../items/ItemShown";
import { Thread } from "../../piece/Thread";
import { Compared, sayComparison } from "../../text/Compared";
import { RichText } from "../../text/RichText";
import { Answers } from "../sheet/DeskParts";

type Shown = CheckpointView & { comparison: Comparison | null; since: number | null };

/** The row of checkpoints a student sent on the way; each opens with what changed since any other, and a word can be said to it. */
export function Checkpoints({
  piece,
  onSent,
}: {
  piece: DeskPiece;
  onSent: (message: MessageView) => void;
}) {
  const [open, setOpen] = useState<number | null>(null);
  if (piece.checkpoints.length === 0) return null;
  return (
    <nav
      aria-label="Checkpoints"
      className="mb-4 flex flex-wrap items-baseline gap-x-2 gap-y-1 border-b border-line pb-2 text-sm"
    >
      <span className="label">checkpoints</span>
      {piece.checkpoints.map((c) => (
        <button
          key={c.id}
          type="button"
          onClick={() => setOpen(c.number)}
          className="min-h-8 cursor-pointer border border-line px-2 hover:bg-sunk"
        >
          ◌ {c.number}{" "}
          <span className="text-soft">
            {c.when}, {sayCount(c.words, "word")}
          </span>
          {c.look ? <span className="ml-1 text-ember">? asks for a look</span> : null}
        </button>
      ))}
      {open !== null ? (
        <CheckpointDialog
          piece={piece}
          number={open}
          onClose={() => setOpen(null)}
          onSent={onSent}
        />
      ) : null}
    </nav>
  );
}

function CheckpointDialog({
  piece,
  number,
  onClose,
  onSent,
}: {
  piece: DeskPiece;
  number: number;
  onClose: () => void;
  onSent: (message: MessageView) => void;
}) {
  const [since, setSince] = useState<string>(number > 1 ? String(number - 1) : "");
  const [shown, setShown] = useState<Shown | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    call(contract.checkpoint, {
      params: { pieceId: piece.id },
      query: { number: String(number), ...(since ? { since } : {}) },
    }).then(
      (found) => !gone && setShown(found),
      (error: unknown) => !gone && setProblem(sayProblem(error)),
    );
    return () => {
      gone = true;
    };
  }, [number, piece.id, since]);
  const comparing = since !== "" && shown?.comparison;
  return (
    <Dialog open onClose={onClose} title={`Checkpoint ${number} of ${piece.called}`} wide>
      {problem ? (
        <p role="alert" className="text-ember">
          ▲ {problem}
        </p>
      ) : null}
      {shown ? (
        <div className="grid gap-4">
          <div className="flex flex-wrap items-end gap-4">
            <p className="text-soft">
              sent {shown.when}, {sayCount(shown.words, "word")}. It is no hand-in, and a word on it
              closes nothing.
            </p>
            {piece.checkpoints.length > 1 ? (
              <div className="w-56">
                <SelectField
                  label="Show"
                  value={since}
                  onChange={(event) => setSince(event.target.value)}
                >
                  <option value="">the text as it was</option>
                  {piece.checkpoints
                    .filter((c) => c.number !== number)
                    .map((c) => (
                      <option key={c.id} value={c.number}>
                        what is other than in {c.number}
                      </option>
                    ))}
                </SelectField>
              </div>
            ) : null}
          </div>
          <div
            className={classes("max-h-[46vh] overflow-auto border border-line bg-paper p-4")}
            tabIndex={0}
            role="region"
            aria-label="The checkpoint"
          >
            {comparing ? (
              <>
                <p className="mb-2 text-sm text-soft">{sayComparison(comparing)}</p>
                <Compared comparison={comparing} doc={shown.doc} />
              </>
            ) : (
              <RichText doc={shown.doc} />
            )}
            {shown.items.map((item) => (
              <ItemShown key={item.id} item={item} />
            ))}
            {shown.sheets.map((sheet) => (
              <Answers key={sheet.partId} sheet={sheet} onScore={null} />
            ))}
          </div>
          <Asked look={piece.checkpoints.find((c) => c.number === number)?.look ?? null} />
          <Thread
            pieceId={piece.id}
            checkpoint={number}
            messages={piece.thread.filter((m) => m.checkpoint === number)}
            heading="A word on this checkpoint"
            onSent={onSent}
          />
        </div>
      ) : (
        <p className="text-soft" role="status">
          Fetching it …
        </p>
      )}
    </Dialog>
  );
}

/** What the student asked with it, and the way to answer at its words. */
function Asked({ look }: { look: DeskPiece["checkpoints"][number]["look"] }) {
  if (!look) return null;
  return (
    <p className="border-l-4 border-ember pl-3">
      <span className="font-serif text-lg">{look.question}</span>{" "}
      <Link href={`/looks/${look.id}`} prefetch={false}>
        answer at the words
      </Link>
    </p>
  );
}
