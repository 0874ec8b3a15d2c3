"use client";

import { useEffect, useEffectEvent, useRef } from "react";
import { actOf, ALONE, CHORD, isLetter, pressed } from "../commands/keys";
import type { DeskModel } from "../model";

const NOT_FOR_DIGITS = "input, textarea, select, [role=dialog], [data-rubric] [role=group]";

/**
 * Obeys the keys of the Desk; digits are favourite comments. Where a teacher has set it so, letters do nothing, or
 * something only after Ctrl+. was pressed.
 */
export function useDeskKeys(desk: DeskModel): void {
  const allowed = useLetters(desk);
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (!allowed(event)) return;
    const target = event.target as HTMLElement | null;
    const plain = !event.ctrlKey && !event.metaKey && !event.altKey;
    if (plain && /^[1-9]$/.test(event.key) && !target?.closest(NOT_FOR_DIGITS))
      return takeFavourite(desk, Number(event.key));
    const id = actOf(event, desk.own.keys);
    if (!id) return;
    event.preventDefault();
    desk.run(id);
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, []);
}

/** Whether a press is to be obeyed, by what the teacher has set for letters; Ctrl+. is taken here. */
function useLetters({ own, session }: DeskModel): (event: KeyboardEvent) => boolean {
  const chorded = useRef(false);
  return (event) => {
    const key = pressed(event);
    if (own.letters === "chord" && key === CHORD) {
      event.preventDefault();
      chorded.current = true;
      session.store.say("And now the key. Escape: none.");
      return false;
    }
    if (ALONE.includes(event.key)) return false;
    const after = chorded.current;
    if (after) session.store.say(null);
    chorded.current = false;
    return own.letters === "on" || after || !isLetter(key);
  };
}

function takeFavourite({ session, bank }: DeskModel, digit: number): void {
  const comment = bank.bank.find((entry) => entry.favourite === digit);
  if (comment && session.marking.words) session.marking.take(comment);
}
