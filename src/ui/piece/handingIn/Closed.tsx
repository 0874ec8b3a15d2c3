"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { isEmptyDoc } from "@/core/text/plainText";
import type { PieceView } from "@/core/views/views";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { WritingField } from "../../comments/WritingField";
import { Notice } from "../../kit/Notice";
import { RichText } from "../../text/RichText";
import { MarkedInText } from "../MarkedInText";
import { HandedInParts } from "./HandedInParts";

/** Work that closed before it was handed in: what was saved is here, and can be asked to be opened again. */
export function Closed({ view, onAsked }: { view: PieceView; onAsked: () => void }) {
  const [why, setWhy] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [asked, setAsked] = useState(false);
  const key = useRef<string | null>(null);
  async function ask() {
    key.current ??= crypto.randomUUID();
    try {
      await call(contract.askToReopen, {
        params: { pieceId: view.id },
        body: { why },
        key: key.current,
      });
      setAsked(true);
      onAsked();
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <section aria-label="My work">
      <Notice ink="ember" className="mb-5 max-w-[42rem]">
        <p>
          This work closed{view.closes ? ` ${view.closes}` : ""}, and nothing was handed in.{" "}
          {view.work.saved
            ? `What you had is here, as it was saved ${view.work.saved}.`
            : "Nothing had been saved."}
        </p>
        {asked ? (
          <p className="mt-2" role="status">
            ✓ Asked. {view.teacher} sees it among the questions; if it is opened for you, you can go
            on here.
          </p>
        ) : (
          <div className="mt-3">
            <WritingField
              label="Why, if you like"
              rows={2}
              maxLength={600}
              value={why}
              onChange={(text) => {
                setWhy(text);
                key.current = null;
              }}
            />
            <Button className="mt-2 max-sm:min-h-11" onClick={() => void ask()}>
              Ask {view.teacher} to open it again
            </Button>
          </div>
        )}
        {problem ? (
          <p role="alert" className="mt-2">
            ▲ {problem}
          </p>
        ) : null}
      </Notice>
      {isEmptyDoc(view.work.doc) ? null : (
        <div className="max-w-[42rem]">
          <MarkedInText items={view.items}>
            <RichText doc={view.work.doc} />
          </MarkedInText>
        </div>
      )}
      <HandedInParts view={view} />
    </section>
  );
}
