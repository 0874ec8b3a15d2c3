"use client";

import { useEffect, useId, useRef, useState, type KeyboardEvent, type Ref } from "react";
import { lookUp, pendingLookup } from "@/core/comments/lookup";
import {
  fillPlaceholders,
  nextSlot,
  slotsOf,
  type PlaceholderValues,
  type Slot,
} from "@/core/comments/placeholders";
import { findEmoji, pendingEmoji } from "@/core/text/emoji";
import type { CommentView } from "@/core/views/views";
import { TextArea } from "../kit/Field";
import { classes } from "../kit/classes";
import { useEmoji } from "./useEmoji";

type Choice = { id: string; lead: string; words: string; asks: boolean; take: () => void };

/**
 * A field in which a teacher writes: `;` and a shorthand or part of a phrase brings a comment of the
 * bank, with its placeholders filled. Where the comment leaves a choice `{a|b}` or a blank `{…}`, that is
 * selected: the choices open as a list, a blank is written over, and Tab goes to the next. `:` and the name of an emoji
 * brings its sign.
 */
export function BankField(props: {
  label: string;
  hideLabel?: boolean;
  value: string;
  onChange: (value: string) => void;
  /** A comment was taken; the text with it in. Where this is given, `onChange` is not called for it. */
  onUsed?: (value: string, comment: CommentView) => void;
  bank: readonly CommentView[];
  /** What to offer first, before anything is typed after `;`. */
  suggested?: readonly CommentView[];
  values: PlaceholderValues;
  rows?: number;
  placeholder?: string;
  error?: string;
  disabled?: boolean;
  maxLength?: number;
  onKeyDown?: (event: KeyboardEvent<HTMLTextAreaElement>) => void;
  onBlur?: () => void;
  onFocus?: () => void;
  fieldRef?: Ref<HTMLTextAreaElement>;
  autoFocus?: boolean;
  /** The list opens above: for fields at the foot of the page. */
  upward?: boolean;
  /** Where the caret stands at first; without it a field that opens by itself is gone on with at its first open slot or its end. */
  begin?: number;
  /** No bank behind it: emoji alone. */
  plain?: boolean;
}) {
  const { value, onChange, onUsed, bank, suggested = NONE, values, onKeyDown } = props;
  const [caret, setCaret] = useState(value.length);
  const [active, setActive] = useState(0);
  const [dismissed, setDismissed] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement | null>(null);
  const listId = useId();
  const place = Math.min(caret, value.length);
  const pending = dismissed === value || props.plain ? null : pendingLookup(value, place);
  const named = dismissed === value ? null : pendingEmoji(value, place);
  const emoji = useEmoji(named !== null);
  const slot =
    dismissed === value || props.plain
      ? undefined
      : slotsOf(value).find((s) => s.choices && s.start < caret && caret <= s.end);
  const choices = slot ? optionsOf(slot) : pending ? found(pending) : named ? faces(named) : [];
  const chosen = choices[Math.min(active, choices.length - 1)];

  // A field that opens with a comment in it begins at the first thing left to say.
  useEffect(() => {
    const first =
      !props.plain && props.autoFocus && props.begin === undefined ? nextSlot(value, 0) : null;
    if (first) selectSlot(first);
    // Once, when the field opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  function selectSlot({ start, end }: Slot) {
    requestAnimationFrame(() => {
      field.current?.setSelectionRange(start, end);
      setCaret(end);
    });
  }

  function found(lookup: { from: number; query: string }): Choice[] {
    const first = lookup.query === "" ? suggested : [];
    const rest = lookUp(bank, lookup.query, 7).filter((c) => !first.includes(c));
    return [...first, ...rest].slice(0, 7).map((comment) => ({
      id: comment.id,
      lead: `${comment.shorthand ? `;${comment.shorthand}` : ""}${comment.clipId ? " ●" : ""}`,
      words: fillPlaceholders(comment.text, values),
      asks: comment.nature === "request",
      take: () => {
        const words = fillPlaceholders(comment.text, values);
        const next = value.slice(0, lookup.from) + words + value.slice(caret);
        const end = lookup.from + words.length;
        if (onUsed) onUsed(next, comment);
        else onChange(next);
        const open = slotsOf(next).find((s) => s.start >= lookup.from && s.end <= end);
        setCaret(end);
        if (open) selectSlot(open);
        else requestAnimationFrame(() => field.current?.setSelectionRange(end, end));
      },
    }));
  }

  /** `:cloud` becomes its sign, with a space behind it. */
  function faces(lookup: { from: number; query: string }): Choice[] {
    return findEmoji(emoji, lookup.query, 7).map(({ emoji: sign, names }) => ({
      id: sign,
      lead: sign,
      words: `:${names[0]}`,
      asks: false,
      take: () => {
        onChange(`${value.slice(0, lookup.from)}${sign} ${value.slice(caret)}`);
        const end = lookup.from + sign.length + 1;
        setCaret(end);
        requestAnimationFrame(() => field.current?.setSelectionRange(end, end));
      },
    }));
  }

  function optionsOf(open: Slot): Choice[] {
    return open.choices!.map((words, n) => ({
      id: `${open.start}-${n}`,
      lead: "",
      words: words || "(nothing)",
      asks: false,
      take: () => {
        const next = value.slice(0, open.start) + words + value.slice(open.end);
        const end = open.start + words.length;
        onChange(next);
        setCaret(end);
        const after = slotsOf(next).find((s) => s.start >= end);
        if (after) selectSlot(after);
        else requestAnimationFrame(() => field.current?.setSelectionRange(end, end));
      },
    }));
  }

  function take(choice: Choice) {
    setActive(0);
    choice.take();
  }

  function keys(event: KeyboardEvent<HTMLTextAreaElement>) {
    const plain = !event.shiftKey && !event.ctrlKey && !event.metaKey;
    if (chosen && plain) {
      const handled: Record<string, () => void> = {
        ArrowDown: () => setActive((n) => (n + 1) % choices.length),
        ArrowUp: () => setActive((n) => (n - 1 + choices.length) % choices.length),
        Enter: () => take(chosen),
        Tab: () => take(chosen),
        Escape: () => setDismissed(value),
      };
      const act = handled[event.key];
      if (act) {
        event.preventDefault();
        event.stopPropagation();
        return act();
      }
    }
    const next =
      plain && !props.plain && event.key === "Tab"
        ? slotsOf(value).find((s) => s.end > event.currentTarget.selectionEnd)
        : undefined;
    if (next) {
      event.preventDefault();
      return selectSlot(next);
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
        maxLength={props.maxLength}
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
        onFocus={(event) => {
          props.onFocus?.();
          if (props.autoFocus)
            event.currentTarget.setSelectionRange(
              props.begin ?? value.length,
              props.begin ?? value.length,
            );
        }}
        onSelect={(event) => setCaret(event.currentTarget.selectionEnd)}
        onKeyDown={keys}
        onBlur={props.onBlur}
        role="combobox"
        aria-expanded={choices.length > 0}
        aria-controls={listId}
        aria-autocomplete="list"
        aria-activedescendant={chosen ? `${listId}-${chosen.id}` : undefined}
      />
      <ul
        id={listId}
        role="listbox"
        aria-label={slot ? "Choices" : named && !pending ? "Emoji" : "Comments of the bank"}
        hidden={choices.length === 0}
        className={classes(
          "absolute inset-x-0 z-40 max-h-64",
          props.upward ? "bottom-full" : "top-full",
          "overflow-auto border border-line-strong bg-raised shadow-lifted",
        )}
      >
        {choices.map((choice, n) => (
          <li
            key={choice.id}
            id={`${listId}-${choice.id}`}
            role="option"
            aria-selected={choice === chosen}
            className={classes(
              "cursor-pointer border-b border-line px-3 py-1.5 text-sm last:border-0",
              choice === chosen && "bg-tide-wash",
            )}
            onMouseDown={(event) => {
              event.preventDefault();
              take(choices[n]!);
            }}
          >
            {choice.lead ? <span className="mr-2 font-semibold">{choice.lead}</span> : null}
            {choice.asks ? <span className="label mr-2 text-ember">asks</span> : null}
            {choice.words}
          </li>
        ))}
      </ul>
    </div>
  );
}

const NONE: readonly CommentView[] = [];
