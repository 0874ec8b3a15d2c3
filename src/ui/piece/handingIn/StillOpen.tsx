"use client";

import { sayNote } from "@/core/text/noteText";
import type { AnsweredMark } from "@/core/views/views";

/** Before handing in: the requests that are not ticked, each to be ticked here, or to stay open. */
export function StillOpen({
  open,
  onTick,
}: {
  open: readonly AnsweredMark[];
  onTick: (mark: AnsweredMark) => void;
}) {
  if (open.length === 0) return null;
  return (
    <fieldset className="mt-3 border-l-2 border-ember pl-3">
      <legend className="text-ember">
        ▲ {open.length === 1 ? "One request is" : `${open.length} requests are`} not ticked yet.
        Tick what you have done; what you leave stays open. You can hand in all the same.
      </legend>
      {open.map((mark) => (
        <label key={mark.id} className="flex min-h-9 items-start gap-2 text-sm max-sm:min-h-11">
          <input
            type="checkbox"
            className="mt-0.5 size-5 shrink-0 accent-moss"
            checked={false}
            onChange={() => onTick(mark)}
          />
          <span>
            {mark.quote ? <span className="font-serif italic">“{mark.quote}” </span> : null}
            {mark.body ? sayNote(mark.body) : "a voice note"}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
