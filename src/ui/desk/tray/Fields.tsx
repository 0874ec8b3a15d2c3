"use client";

import { useRef, useState } from "react";
import { BankField } from "../../comments/BankField";
import { TextField } from "../../kit/Field";
import { setExcused, setFlag } from "../commands/flags";
import { noteDraft } from "../commands/undo";
import { usePieceOnDesk } from "../model";
import { scoreFault } from "../store/feedback";
import { leaveField, useDraft } from "./useDraft";

/** What a field said before it was written in, noted when it is left, so that it can be taken back. */
function useNoted<Part extends "overall" | "score">(part: Part) {
  const desk = usePieceOnDesk();
  const { draft } = useDraft();
  const before = useRef<string | null>(null);
  return {
    begin: () => {
      before.current = draft[part];
    },
    end: () => {
      const was = before.current;
      if (was !== null && was !== draft[part]) noteDraft(desk, { [part]: was });
      before.current = null;
    },
  };
}

/** A word on the whole. */
export function OverallNote() {
  const { session, piece, help } = usePieceOnDesk();
  const { keeper, draft, change } = useDraft();
  const noted = useNoted("overall");
  const [focused, setFocused] = useState(false);
  return (
    <div className="min-w-32 flex-[3] max-md:basis-full">
      <BankField
        upward
        label="Overall note (o)"
        hideLabel
        rows={focused ? 4 : 1}
        onFocus={() => {
          noted.begin();
          setFocused(true);
        }}
        value={draft.overall}
        onChange={(overall) => change({ overall })}
        bank={help.bank}
        values={{ ...help.values, score: piece.scoreWords ?? undefined }}
        fieldRef={session.port("overall")}
        onKeyDown={leaveField}
        onBlur={() => {
          setFocused(false);
          noted.end();
          void keeper.flush();
        }}
        placeholder="A word on the whole (o)"
      />
    </div>
  );
}

/** The score as it is typed. */
export function Score({ of }: { of: string | null }) {
  const { session, piece } = usePieceOnDesk();
  const { keeper, state, draft, change } = useDraft();
  const noted = useNoted("score");
  /** A score as it is typed; `ex` excuses, and `inc` flags as unfinished where the score itself has no such word. */
  function take(typed: string) {
    const word = typed.trim().toLowerCase();
    if (word === "ex") return void setExcused(session, true);
    if (word === "inc" && !piece.scoreHint?.includes("inc"))
      return void setFlag(session, "unfinished");
    change({ score: typed });
  }
  return (
    <div className="flex items-center gap-1.5">
      <span className={piece.scoreHint ? "w-28" : "w-20"}>
        <TextField
          ref={session.port("score")}
          label={of ? `Score of ${of} (s)` : "Score (s)"}
          hideLabel
          value={draft.score}
          onChange={(e) => take(e.target.value)}
          onKeyDown={leaveField}
          onFocus={(event) => {
            noted.begin();
            event.target.select();
          }}
          onBlur={() => {
            noted.end();
            void keeper.flush();
          }}
          className="min-h-9! px-2!"
          placeholder={piece.scoreHint ?? undefined}
          error={scoreFault(state) ?? undefined}
          autoComplete="off"
        />
      </span>
      <span className="label whitespace-nowrap">{of ? `of ${of} (s)` : "score (s)"}</span>
    </div>
  );
}
