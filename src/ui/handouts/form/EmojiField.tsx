"use client";

import { useRef, useState } from "react";
import { Popover } from "radix-ui";
import { findEmoji } from "@/core/text/emoji";
import { useEmoji } from "../../comments/useEmoji";

/** A label for the work, found by its usual name (":cloud"). The list is loaded when it is first opened. */
export function EmojiField({
  value,
  onChange,
}: {
  value: string;
  onChange: (emoji: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState("");
  const first = useRef<HTMLButtonElement>(null);
  const list = useEmoji(open);
  const wanted = search.replace(/^:|:$/g, "").toLowerCase();
  const found = findEmoji(list, wanted, 48);
  const choose = (emoji: string) => {
    onChange(emoji);
    setOpen(false);
    setSearch("");
  };
  return (
    <div>
      <p className="label">Label</p>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          className="min-h-10 min-w-12 cursor-pointer rounded-[3px] border border-line-strong bg-raised px-3"
          aria-label={value ? `Label: ${value}. Choose another` : "Choose a label"}
        >
          {value || <span className="text-soft">:</span>}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-50 w-80 border border-line-strong bg-raised p-3 shadow-lifted"
          >
            <input
              autoFocus
              aria-label="Find a label by its name"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter") {
                  event.preventDefault();
                  if (found[0]) choose(found[0].emoji);
                }
                if (event.key === "ArrowDown") {
                  event.preventDefault();
                  first.current?.focus();
                }
              }}
              placeholder=":cloud"
              className="w-full border border-line-strong bg-paper px-2 py-1"
            />
            <ul className="mt-2 grid max-h-48 grid-cols-8 overflow-auto" aria-label="Labels found">
              {found.map((e, n) => (
                <li key={e.emoji}>
                  <button
                    ref={n === 0 ? first : undefined}
                    type="button"
                    title={`:${e.names[0]}:`}
                    aria-label={e.names[0]!.replaceAll("_", " ")}
                    onClick={() => choose(e.emoji)}
                    className="size-9 cursor-pointer text-xl hover:bg-sunk"
                  >
                    {e.emoji}
                  </button>
                </li>
              ))}
            </ul>
            {list.length > 0 && found.length === 0 ? (
              <p className="text-sm text-soft">Nothing has this name.</p>
            ) : null}
            {value ? (
              <button
                type="button"
                className="mt-2 cursor-pointer text-sm text-tide underline"
                onClick={() => choose("")}
              >
                No label
              </button>
            ) : null}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
