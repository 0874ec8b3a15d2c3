"use client";

import { Thread } from "../piece/Thread";
import { usePieceOnDesk } from "./model";

/** What was said about single marks that came back in this round: each with its words, to be answered here. */
export function MarkTalk() {
  const { session, piece } = usePieceOnDesk();
  if (piece.markTalk.length === 0) return null;
  return (
    <section aria-label="About single marks" className="mb-8">
      <h2 className="border-b border-line pb-1">About single marks</h2>
      {piece.markTalk.map((talk) => (
        <div key={talk.markId} className="mt-3 border-l-2 border-line-strong pl-3">
          <p className="text-sm text-soft">
            {talk.quote ? <span className="font-serif italic">“{talk.quote}” </span> : null}
            {talk.said}
          </p>
          <Thread
            pieceId={piece.id}
            markId={talk.markId}
            messages={talk.messages}
            placeholder="Answer this"
            onSent={(message) =>
              session.store.patch((old) => ({
                ...old,
                markTalk: old.markTalk.map((one) =>
                  one.markId === talk.markId
                    ? { ...one, messages: [...one.messages, message] }
                    : one,
                ),
              }))
            }
          />
        </div>
      ))}
    </section>
  );
}
