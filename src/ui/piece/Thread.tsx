"use client";

import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { MessageView } from "@/core/views/views";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { WritingField } from "../comments/WritingField";
import { Hear } from "../voice/Hear";
import { Speak } from "../voice/Speak";
import { VoiceNote } from "../voice/VoiceNote";

/** The conversation about a piece, or about one mark on it. */
export function Thread({ pieceId, markId = null, checkpoint = null, messages, heading, placeholder, onSent }: { pieceId: string; markId?: string | null; /** About this checkpoint. */ checkpoint?: number | null; messages: readonly MessageView[]; heading?: string; placeholder?: string; onSent: (message: MessageView) => void }) {
  const [body, setBody] = useState("");
  const [clipId, setClipId] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  // One key for one message, however often sending it has to be tried.
  const key = useRef<string | null>(null);

  async function send() {
    if ((body.trim() === "" && !clipId) || busy) return;
    setBusy(true);
    key.current ??= crypto.randomUUID();
    try {
      const message = await call(contract.sendMessage, { params: { pieceId }, body: { body: body.trim(), markId, checkpoint, clipId }, key: key.current });
      key.current = null;
      setBody("");
      setClipId(null);
      setProblem(null);
      onSent(message);
    } catch (error) {
      setProblem(sayProblem(error));
    } finally {
      setBusy(false);
    }
  }

  return (
    <section aria-label={heading ?? "Replies"}>
      {heading ? <h2 className="border-b border-line pb-1">{heading}</h2> : null}
      <ul className="my-2 space-y-1.5">
        {messages.map((message) => (
          <li key={message.id} className={message.mine ? "border-l-2 border-tide pl-2" : "border-l-2 border-line-strong pl-2"}>
            <span className="text-sm text-soft">
              {message.mine ? "I" : message.author}, {message.when}
              {message.checkpoint && checkpoint === null ? `, on checkpoint ${message.checkpoint}` : ""}
            </span>
            {message.body ? (
              <p className="whitespace-pre-wrap">
                {message.body} <Hear text={message.body} />
              </p>
            ) : null}
            <VoiceNote clipId={message.clipId} />
          </li>
        ))}
      </ul>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <div className="flex-1">
          <WritingField
            label={heading ? "Write in the thread" : "Reply"}
            hideLabel
            rows={heading ? 2 : 1}
            value={body}
            placeholder={placeholder ?? "Write a word"}
            error={problem ?? undefined}
            onChange={(text) => {
              setBody(text);
              key.current = null;
            }}
          />
        </div>
        <Button type="submit" small={!heading} disabled={busy || (body.trim() === "" && !clipId)}>
          Send
        </Button>
      </form>
      <div className="mt-1.5">
        <Speak
          pieceId={pieceId}
          place={`reply ${pieceId} ${markId ?? checkpoint ?? ""}`}
          clipId={clipId}
          words={heading ? "Speak" : "Answer by voice"}
          onClip={(clip) => {
            setClipId(clip?.id ?? null);
            key.current = null;
          }}
        />
      </div>
    </section>
  );
}
