"use client";

import { useEffect, useEffectEvent } from "react";
import { actOf } from "../commands/keys";
import type { DeskModel } from "../model";

const NOT_FOR_DIGITS = "input, textarea, select, [role=dialog], details [role=group]";

/** Obeys the keys of the Desk; digits are favourite comments. */
export function useDeskKeys(desk: DeskModel): void {
  const onKey = useEffectEvent((event: KeyboardEvent) => {
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

function takeFavourite({ session, bank }: DeskModel, digit: number): void {
  const comment = bank.bank.find((entry) => entry.favourite === digit);
  if (comment && session.marking.words) session.marking.take(comment);
}
