"use client";

import { useId, useRef, useState, type KeyboardEvent, type Ref } from "react";
import { lookUp, pendingLookup } from "@/core/comments/lookup";
import { fillPlaceholders, type PlaceholderValues } from "@/core/comments/placeholders";
import type { CommentView } from "@/core/views/views";
import { TextArea } from "../kit/Field";
import { classes } from "../kit/classes";

/**
 * A field in which a teacher writes: `;` and a shorthand or part of a phrase brings a comment of the
 * bank, with its placeholders filled.
 */
export function BankField(props: {
  label: string;
  hideLabel?: boolean;
  value: string;
  onChange: (value: string) => void;
  onUse?: (comment: CommentView) => void;
  bank: readonly CommentView[];
  values: PlaceholderValues;
  rows?: number;
  placeholder?: string;
  error?: string;
  disabled?: boolean;
  onKeyDown?: (event: KeyboardEvent<HTMLTextAreaElement>) => void;
  onBlur?: () => void;
  fieldRef?: Ref<HTMLTextAreaElement>;
  autoFocus?: boolean;
}) {
  const { value, onChange, onUse, bank, values, onKeyDown } = props;
  const [caret, setCaret] = useState(value.length);
  const [active, setActive] = useState(0);
  const [dismissed, setDismissed] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement | null>(null);
  const listId = useId();
  const pending = pendingLookup(value, Math.min(caret, value.length));
  const found = pending && dismissed !== value ? lookUp(bank, pending.query, 6) : [];
  const chosen = found[Math.min(active, found.length - 1)];

  function take(comment: CommentView) {
    if (!pending) return;
    const words = fillPlaceholders(comment.text, values);
    const next = value.slice(0, pending.from) + words + value.slice(caret);
    onChange(next);
    onUse?.(comment);
    setActive(0);
    const end = pending.from + words.length;
    setCaret(end);
    requestAnimationFrame(() => field.current?.setSelectionRange(end, end));
  }

  function keys(event: KeyboardEvent<HTMLTextAreaElement>) {
    if (chosen) {
      const handled: Record<string, () => void> = {
        ArrowDown: () => setActive((n) => (n + 1) % found.length),
        ArrowUp: () => setActive((n) => (n - 1 + found.length) % found.length),
        Enter: () => take(chosen),
        Tab: () => take(chosen),
        Escape: () => setDismissed(value),
      };
      const act = event.shiftKey || event.ctrlKey || event.metaKey ? undefined : handled[event.key];
      if (act) {
        event.preventDefault();
        event.stopPropagation();
        act();
        return;
      }
    }
    onKeyDown?.(event);
  }

  return (
    <div className="relative">
      <TextArea
        label={props.label}
        hideLabel={props.hideLabel}
        error={props.error}
        rows={props.rows ?? 3}
        placeholder={props.placeholder}
        disabled={props.disabled}
        value={value}
        autoFocus={props.autoFocus}
        ref={(element) => {
          field.current = element;
          if (typeof props.fieldRef === "function") props.fieldRef(element);
          else if (props.fieldRef) props.fieldRef.current = element;
        }}
        onChange={(event) => {
          onChange(event.target.value);
          setCaret(event.target.selectionStart);
          setActive(0);
        }}
        // A field that opens with `;` in it is gone on with, not begun before.
        onFocus={(event) => props.autoFocus && event.currentTarget.setSelectionRange(value.length, value.length)}
        onSelect={(event) => setCaret(event.currentTarget.selectionStart)}
        onKeyDown={keys}
        onBlur={props.onBlur}
        role="combobox"
        aria-expanded={found.length > 0}
        aria-controls={listId}
        aria-autocomplete="list"
        aria-activedescendant={chosen ? `${listId}-${chosen.id}` : undefined}
      />
      <ul id={listId} role="listbox" aria-label="Comments of the bank" hidden={found.length === 0} className="absolute inset-x-0 top-full z-30 max-h-64 overflow-auto border border-line-strong bg-raised shadow-lifted">
        {found.map((comment, n) => (
          <li
            key={comment.id}
            id={`${listId}-${comment.id}`}
            role="option"
            aria-selected={comment === chosen}
            className={classes("cursor-pointer border-b border-line px-3 py-1.5 text-sm last:border-0", n === Math.min(active, found.length - 1) && "bg-tide-wash")}
            onMouseDown={(event) => {
              event.preventDefault();
              take(comment);
            }}
          >
            {comment.shorthand ? <span className="mr-2 font-semibold">;{comment.shorthand}</span> : null}
            {comment.nature === "request" ? <span className="label mr-2 text-ember">asks</span> : null}
            {fillPlaceholders(comment.text, values)}
          </li>
        ))}
      </ul>
    </div>
  );
}
