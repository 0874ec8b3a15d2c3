"use client";

import type { Editor as TiptapEditor } from "@tiptap/core";
import { useEffect, useState } from "react";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/Field";
import { find } from "./findPlugin";

/** Finds words in the writing: Enter goes to the next, Shift and Enter to the one before, Escape closes. */
export function FindBar({ editor, onClose }: { editor: TiptapEditor; onClose: () => void }) {
  const [query, setQuery] = useState("");
  const [state, setState] = useState({ count: 0, at: 0 });
  const go = (wanted: number, words = query) => setState(find(editor, words, wanted));
  useEffect(() => () => void find(editor, "", 0), [editor]);
  return (
    <div
      className="flex flex-wrap items-center gap-2 border-b border-line py-1"
      role="search"
      aria-label="In my writing"
      onKeyDown={(event) => {
        if (event.key === "Escape") {
          onClose();
          editor.commands.focus();
        }
        if (event.key === "Enter") {
          event.preventDefault();
          go(state.at + (event.shiftKey ? -1 : 1));
        }
      }}
    >
      <div className="w-56">
        <TextField
          label="Find"
          hideLabel
          placeholder="Find words"
          autoFocus
          value={query}
          onChange={(event) => {
            setQuery(event.target.value);
            go(0, event.target.value);
          }}
        />
      </div>
      <span className="min-w-24 text-sm text-soft" role="status">
        {query ? sayFound(state) : ""}
      </span>
      <Button
        small
        className="max-sm:min-h-11"
        disabled={state.count < 2}
        onClick={() => go(state.at - 1)}
      >
        Before
      </Button>
      <Button
        small
        className="max-sm:min-h-11"
        disabled={state.count < 2}
        onClick={() => go(state.at + 1)}
      >
        Next
      </Button>
      <Button small className="max-sm:min-h-11" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}

const sayFound = ({ count, at }: { count: number; at: number }): string =>
  count === 0 ? "nowhere" : `${at + 1} of ${count}`;
