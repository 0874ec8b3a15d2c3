"use client";

import { useState } from "react";
import { sayPart } from "@/core/handouts/parts";
import { countWords, plainText } from "@/core/text/plainText";
import { filesIn, picturesOf, type RichDoc } from "@/core/text/richDoc";
import { sayCount } from "@/core/text/sayCount";
import type { AnsweredMark, PieceView } from "@/core/views/views";
import type { ItemView } from "@/core/views/workViews";
import { sayItem } from "../../items/ItemShown";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { WritingField } from "../../comments/WritingField";
import { HowItWent } from "./HowItWent";
import { StillOpen } from "./StillOpen";
import type { SaidOfIt } from "./useHandIn";

/** @example "212 words, 1 picture, 2 files" */
function sayWriting(doc: RichDoc): string {
  const beside = [
    [picturesOf(doc).length, "picture"],
    [filesIn(doc).length, "file"],
  ] as const;
  return [
    sayCount(countWords(plainText(doc).text), "word"),
    ...beside.flatMap(([n, what]) => (n > 0 ? [sayCount(n, what)] : [])),
  ].join(", ");
}

type Props = {
  view: PieceView;
  doc: RichDoc;
  items: readonly ItemView[];
  underWay: number;
  answered: ReadonlyMap<string, { given: number; of: number }>;
  missing: readonly string[];
  /** Requests that are not ticked. */
  open: readonly AnsweredMark[];
  onTick: (mark: AnsweredMark) => void;
  onClose: () => void;
  onHandIn: (self: SaidOfIt, changes: string) => Promise<void>;
};

/** Before handing in: what goes, what is missing of what was asked, and the question on how it went. */
export function HandInDialog({
  view,
  doc,
  items,
  underWay,
  answered,
  missing,
  open,
  onTick,
  onClose,
  onHandIn,
}: Props) {
  const [self, setSelf] = useState<{ choice: string | null; words: string }>({
    choice: null,
    words: "",
  });
  const [changes, setChanges] = useState("");
  const [busy, setBusy] = useState(false);
  const again = view.cameBack.length > 0;
  return (
    <Dialog open onClose={onClose} title={`Hand in: ${view.title}`}>
      <p>
        This goes to {view.teacher}
        {view.due.lateness ? `, ${view.due.lateness}` : `, due ${view.due.words}`}:
      </p>
      <ul className="mt-2 border-y border-line">
        {view.parts.map((p) => {
          const own = items.filter((i) => i.partId === p.id);
          const count = answered.get(p.id);
          return (
            <li key={p.id} className="py-1 not-first:border-t not-first:border-line">
              <span className="font-serif">{sayPart(p)}</span>{" "}
              <span className="text-soft">
                {p.kind === "writing"
                  ? sayWriting(doc)
                  : count
                    ? `${count.given} of ${count.of} answered`
                    : own.length === 0
                      ? "nothing"
                      : own.map((i) => `${i.name} (${sayItem(i)})`).join(", ")}
              </span>
            </li>
          );
        })}
      </ul>
      {missing.length > 0 ? (
        <ul className="mt-2 text-ember" aria-label="Missing">
          {missing.map((m) => (
            <li key={m}>▲ {m}</li>
          ))}
          <li className="text-soft">You can hand in all the same.</li>
        </ul>
      ) : null}
      {underWay > 0 ? (
        <p className="mt-2 text-soft">
          {underWay === 1 ? "One file is" : `${underWay} files are`} still on the way; it is handed
          in when {underWay === 1 ? "it is" : "they are"} through.
        </p>
      ) : null}
      <StillOpen open={open} onTick={onTick} />
      {again ? (
        <div className="mt-3">
          <WritingField
            label="What did you change? A sentence for your teacher, if you like"
            rows={2}
            maxLength={600}
            value={changes}
            onChange={setChanges}
          />
        </div>
      ) : null}
      {view.selfAssessment ? (
        <HowItWent asked={view.selfAssessment} said={self} onSay={setSelf} />
      ) : null}
      <p className="mt-2 text-soft">You get a receipt with the time.</p>
      <div className="mt-4 flex justify-end gap-2">
        <Button className="max-sm:min-h-11" onClick={onClose}>
          Not yet
        </Button>
        <Button
          ink="tide"
          className="max-sm:min-h-11"
          disabled={busy}
          onClick={() => {
            setBusy(true);
            void onHandIn(
              view.selfAssessment && (self.choice || self.words.trim()) ? self : null,
              changes.trim(),
            ).finally(() => setBusy(false));
          }}
        >
          {busy ? "Handing in …" : "Hand in now"}
        </Button>
      </div>
    </Dialog>
  );
}
