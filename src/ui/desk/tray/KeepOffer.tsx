"use client";

import { shorten } from "@/core/text/shorten";
import { useState } from "react";
import type { CommentView } from "@/core/views/views";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useDesk } from "../model";
import type { Offer } from "../state/useBank";

/** Said a second time: the comment is offered to the bank; once kept, it can have a shorthand at once. */
export function KeepOffer() {
  const { bank } = useDesk();
  return bank.offer ? (
    <div className="px-4 [grid-area:offer]">
      <OfferShown offer={bank.offer} />
    </div>
  ) : null;
}

function OfferShown({ offer }: { offer: Offer }) {
  const { bank } = useDesk();
  const onClose = () => bank.setOffer(null);
  const onKeep = (text: string, nature: CommentView["nature"]) =>
    void bank.keepComment(text, nature);
  const onShorthand = (comment: CommentView, shorthand: string) =>
    void bank.giveShorthand(comment, shorthand);
  const [shorthand, setShorthand] = useState("");
  const close = (
    <Button small ink="quiet" onClick={onClose}>
      {offer.kind === "offer" ? "No" : "Close"}
    </Button>
  );
  switch (offer.kind) {
    case "offer":
      return (
        <Notice
          ink="tide"
          className="mb-2"
          acts={
            <>
              <Button small ink="tide" onClick={() => onKeep(offer.text, offer.nature)}>
                Keep it in the bank
              </Button>
              {close}
            </>
          }
        >
          You have said nearly this {offer.times} times: “{shorten(offer.text, 80)}”
        </Notice>
      );
    case "known":
      return (
        <Notice ink="tide" className="mb-2" acts={close}>
          The bank says this already{offer.shorthand ? `: ;${offer.shorthand}` : ""}. “
          {shorten(offer.text, 80)}”
        </Notice>
      );
    case "failed":
      return (
        <Notice ink="ember" className="mb-2" acts={close}>
          {offer.words}
        </Notice>
      );
    case "kept":
      return (
        <Notice ink="moss" className="mb-2" acts={close}>
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (shorthand.trim()) onShorthand(offer.comment, shorthand.trim().replace(/^;/, ""));
            }}
          >
            <span>Kept in the bank: “{shorten(offer.comment.text, 60)}”</span>
            <label>
              with the shorthand{" "}
              <input
                value={shorthand}
                onChange={(event) => setShorthand(event.target.value)}
                maxLength={24}
                className="w-28 border border-line-strong bg-raised px-1"
                onKeyDown={(event) => event.key === "Escape" && onClose()}
              />
            </label>
            <Button small type="submit" disabled={shorthand.trim() === ""}>
              Give it
            </Button>
          </form>
        </Notice>
      );
  }
}
