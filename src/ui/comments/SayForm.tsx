"use client";

import { createContext, useContext, useEffect, useRef, useState } from "react";
import { sayProblem } from "../client";
import { keep, kept, release } from "../device";
import type { SentFile } from "@/core/threads/message";
import { Button } from "../kit/Button";
import { FilesToSend } from "./FilesToSend";
import { Speak } from "../voice/Speak";
import { WritingField } from "./WritingField";

const Ended = createContext(false);
/** Within it nothing more can be said (work that was taken off): threads are read only. */
export const SayingEnded = Ended.Provider;

type Props = {
  label: string;
  placeholder: string;
  button: string;
  /** Whose voice it is: of this piece, or (null) a teacher's own. */ pieceId: string | null;
  /** Where a recording is kept on the device. */ place: string;
  rows: number;
  /** The piece in whose thread files can go with it; absent: words and voice alone. */
  filesOf?: string;
  onSend: (said: Said, key: string) => Promise<void>;
};
type Said = { body: string; clipId: string | null; files: SentFile[] };
const NOTHING: Said = { body: "", clipId: null, files: [] };
const KEPT = "said ";

/**
 * Where something is written or said, with the bank and emoji behind its field. What was written is on the device and in the
 * field until the server has it, and sending it twice makes one.
 */
export function SayForm(props: Props) {
  return useContext(Ended) ? null : <OpenForm {...props} />;
}

function OpenForm({ label, placeholder, button, pieceId, place, rows, filesOf, onSend }: Props) {
  const [said, setSaid] = useState<Said>(NOTHING);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const key = useRef<string | null>(null);
  const empty = said.body.trim() === "" && !said.clipId && said.files.length === 0;
  const change = (part: Partial<Said>) => {
    const next = { ...said, ...part };
    setSaid(next);
    void keep(KEPT + place, next, 0);
    key.current = null;
  };
  // What a closed tab left half said is there again.
  useEffect(() => {
    let gone = false;
    void kept<Said>(KEPT + place).then((found) => {
      if (!gone && found)
        setSaid((now) => (now.body === "" && !now.clipId ? { ...NOTHING, ...found.value } : now));
    });
    return () => {
      gone = true;
    };
  }, [place]);

  async function send() {
    if (empty || busy) return;
    setBusy(true);
    key.current ??= crypto.randomUUID();
    try {
      await onSend({ ...said, body: said.body.trim() }, key.current);
      key.current = null;
      setSaid(NOTHING);
      await release(KEPT + place);
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    } finally {
      setBusy(false);
    }
  }

  return (
    <div>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="flex-1">
          <WritingField
            label={label}
            hideLabel
            rows={rows}
            value={said.body}
            placeholder={placeholder}
            error={problem ?? undefined}
            onChange={(body) => change({ body })}
          />
        </div>
        <Button type="submit" small={rows === 1} disabled={busy || empty}>
          {button}
        </Button>
      </form>
      <div className="mt-1.5 flex flex-wrap items-start gap-x-3 gap-y-1">
        <Speak
          pieceId={pieceId}
          place={place}
          clipId={said.clipId}
          words={rows === 1 ? "Answer by voice" : "Speak"}
          onClip={(clip) => change({ clipId: clip?.id ?? null })}
        />
        {filesOf ? (
          <FilesToSend
            pieceId={filesOf}
            files={said.files}
            onFiles={(files) => change({ files })}
          />
        ) : null}
      </div>
    </div>
  );
}
