"use client";

import { contract } from "@/core/api/contract";
import type { MessageView } from "@/core/views/views";
import { call } from "../client";
import { SayForm } from "../comments/SayForm";
import { SentFiles } from "../comments/SentFiles";
import { SaidWords } from "../voice/SaidWords";

/** The conversation about a piece, or about one mark on it. */
export function Thread({
  pieceId,
  markId = null,
  checkpoint = null,
  messages,
  heading,
  placeholder,
  closed = false,
  onSent,
}: {
  pieceId: string;
  markId?: string | null;
  /** About this checkpoint. */ checkpoint?: number | null;
  messages: readonly MessageView[];
  heading?: string;
  placeholder?: string;
  /** A teacher closed it: it is read, not written in. */ closed?: boolean;
  onSent: (message: MessageView) => void;
}) {
  return (
    <section
      aria-label={heading ?? "Replies"}
      className={messages.length === 0 ? "no-print" : undefined}
    >
      {heading ? <h2 className="border-b border-line pb-1">{heading}</h2> : null}
      <ul className="my-2 space-y-1.5">
        {messages.map((message) => (
          <li
            key={message.id}
            className={
              message.mine ? "border-l-2 border-tide pl-2" : "border-l-2 border-line-strong pl-2"
            }
          >
            <span className="text-sm text-soft">
              {message.mine ? "I" : message.author}, {message.when}
              {message.checkpoint && checkpoint === null
                ? `, on checkpoint ${message.checkpoint}`
                : ""}
            </span>
            <SaidWords body={message.body} clipId={message.clipId} />
            <SentFiles files={message.files} />
          </li>
        ))}
      </ul>
      {closed ? (
        <p className="text-soft">Your teacher has closed this conversation.</p>
      ) : (
        <ReplyForm
          pieceId={pieceId}
          markId={markId}
          checkpoint={checkpoint}
          label={heading ? "Write in the thread" : "Reply"}
          placeholder={placeholder ?? "Write a word"}
          rows={heading ? 2 : 1}
          onSent={onSent}
        />
      )}
    </section>
  );
}

/** Where a word is added to the thread of a piece, or to that about one mark or checkpoint. */
export function ReplyForm({
  pieceId,
  markId,
  checkpoint = null,
  label,
  placeholder,
  rows,
  onSent,
}: {
  pieceId: string;
  markId: string | null;
  checkpoint?: number | null;
  label: string;
  placeholder: string;
  rows: number;
  onSent: (message: MessageView) => void;
}) {
  return (
    <SayForm
      label={label}
      placeholder={placeholder}
      button="Send"
      pieceId={pieceId}
      place={`reply ${pieceId} ${markId ?? checkpoint ?? ""}`}
      rows={rows}
      filesOf={pieceId}
      onSend={async ({ body, clipId, files }, key) =>
        onSent(
          await call(contract.sendMessage, {
            params: { pieceId },
            body: { body, markId, checkpoint, clipId, files: files.map((file) => file.id) },
            key,
          }),
        )
      }
    />
  );
}
