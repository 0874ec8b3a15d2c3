"use client";

import { shorten } from "@/core/text/shorten";
import { useMemo, useState } from "react";
import { lookUp } from "@/core/comments/lookup";
import { fillPlaceholders } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";
import { classes } from "../../kit/classes";
import { useCarried } from "../CommentDrag";
import { useDesk } from "../model";

/** Favourite comments by their number: a press puts one on what is selected, or each can be dragged onto the work. */
export function Favourites() {
  const { session, help } = useDesk();
  const { bank, values } = help;
  const enabled = session.marking.words !== null;
  const favourites = useMemo(
    () =>
      bank
        .filter((c) => c.favourite !== null && c.mine)
        .sort((a, b) => a.favourite! - b.favourite!),
    [bank],
  );
  return (
    <ul className="flex min-w-0 flex-1 gap-1 overflow-x-auto" aria-label="Favourite comments">
      {favourites.map((comment) => (
        <Favourite
          key={comment.id}
          comment={comment}
          words={fillPlaceholders(comment.text, values)}
          enabled={enabled}
          onTake={() => session.marking.take(comment)}
        />
      ))}
    </ul>
  );
}

/** The comment bank in the tray: what is likely to be wanted, and a search over all. Each can be dragged onto the work. */
export function BankSearch({ suggested }: { suggested: readonly CommentView[] }) {
  const { session, help } = useDesk();
  const { bank, values } = help;
  const onTake = (comment: CommentView) => session.marking.take(comment);

  const [asked, setAsked] = useState("");
  const [active, setActive] = useState(0);
  const [open, setOpen] = useState(false);
  const likely = suggested.length > 0 ? suggested : lookUp(bank, "", 6);
  const unasked = open ? likely : [];
  const found = asked.trim() === "" ? unasked : lookUp(bank, asked, 8);
  const chosen = found[Math.min(active, found.length - 1)];
  function take(comment: CommentView) {
    setAsked("");
    setOpen(false);
    session.at("dock")?.blur();
    onTake(comment);
  }
  function keys(event: React.KeyboardEvent<HTMLInputElement>) {
    if (event.key === "ArrowDown") setActive((n) => Math.min(found.length - 1, n + 1));
    else if (event.key === "ArrowUp") setActive((n) => Math.max(0, n - 1));
    else if (event.key === "Enter") {
      if (chosen) take(chosen);
    } else if (event.key === "Escape") {
      setAsked("");
      event.currentTarget.blur();
    } else return;
    event.preventDefault();
  }
  return (
    <div className="relative shrink-0">
      <label className="flex items-center text-sm">
        <span className="sr-only">bank</span>
        <input
          ref={session.port("dock")}
          value={asked}
          onChange={(event) => {
            setAsked(event.target.value);
            setActive(0);
          }}
          onFocus={() => setOpen(true)}
          onBlur={() => setOpen(false)}
          onKeyDown={keys}
          placeholder="bank ( / )"
          className="min-h-9 w-24 border border-line-strong bg-raised px-2 text-sm"
          role="combobox"
          aria-label="Search the comment bank"
          aria-expanded={found.length > 0}
          aria-controls="dock-list"
          aria-activedescendant={chosen ? `dock-${chosen.id}` : undefined}
        />
      </label>
      <ul
        id="dock-list"
        role="listbox"
        aria-label="Comments"
        hidden={found.length === 0}
        className="absolute bottom-full left-0 z-40 mb-1 max-h-72 w-[min(40rem,90vw)] overflow-auto border border-line-strong bg-raised shadow-lifted"
      >
        {asked.trim() === "" ? (
          <li role="presentation" className="label border-b border-line px-3 py-1">
            {suggested.length > 0 ? "likely here" : "used most"}
          </li>
        ) : null}
        {found.map((comment) => (
          <Option
            key={comment.id}
            comment={comment}
            words={fillPlaceholders(comment.text, values)}
            active={comment === chosen}
            onTake={() => take(comment)}
          />
        ))}
      </ul>
    </div>
  );
}

type HandleProps = { comment: CommentView; words: string; onTake: () => void };

function Option({ comment, words, active, onTake }: HandleProps & { active: boolean }) {
  const { setNodeRef, listeners } = useCarried("list", comment);
  return (
    <li
      ref={setNodeRef}
      id={`dock-${comment.id}`}
      role="option"
      aria-selected={active}
      {...listeners}
      onMouseDown={keepingFocus(listeners)}
      onClick={onTake}
      className={classes(
        "flex cursor-pointer items-baseline gap-2 border-b border-line px-3 py-1 text-sm last:border-0",
        active && "bg-tide-wash",
      )}
    >
      <span className="shrink-0 font-semibold">
        {comment.shorthand ? `;${comment.shorthand}` : ""}
        {comment.clipId ? <span title="with a voice"> ●</span> : null}
      </span>
      <span className="min-w-0 flex-1">{words}</span>
      {comment.nature === "remark" ? null : (
        <span
          className={classes(
            "label shrink-0",
            comment.nature === "request" ? "text-ember" : "text-moss",
          )}
        >
          {comment.nature === "request" ? "asks" : "praise"}
        </span>
      )}
    </li>
  );
}

function Favourite({ comment, words, enabled, onTake }: HandleProps & { enabled: boolean }) {
  const { setNodeRef, listeners } = useCarried("favourite", comment);
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        aria-disabled={!enabled}
        title={`${words}${enabled ? "" : " (select words first, or drag it onto the work)"}`}
        {...listeners}
        onMouseDown={keepingFocus(listeners)}
        onClick={() => enabled && onTake()}
        className="cursor-pointer border border-line-strong bg-raised px-1.5 text-xs leading-6 whitespace-nowrap hover:border-tide aria-disabled:cursor-grab aria-disabled:text-soft"
      >
        <kbd className="font-semibold">{comment.favourite}</kbd>{" "}
        {comment.shorthand ?? shorten(comment.text, 12)}
      </button>
    </li>
  );
}

/** The selection, and the field that is typed in, must outlive the press; the drag begins with it. */
const keepingFocus =
  (listeners: ReturnType<typeof useCarried>["listeners"]) => (event: React.MouseEvent) => {
    listeners?.onMouseDown?.(event);
    event.preventDefault();
  };
