"use client";

import { useSyncExternalStore } from "react";
import { turnOn, type Turn } from "@/core/marks/turn";

/** Pages and pictures that someone has turned on this device, newest last: where they are seen again, they are seen so. */
const KEY = "turned";
const MOST = 200;
let turned: ReadonlyMap<string, Turn> | null = null;
const listeners = new Set<() => void>();

function read(): ReadonlyMap<string, Turn> {
  if (turned) return turned;
  try {
    turned = new Map(JSON.parse(localStorage.getItem(KEY) ?? "[]") as [string, Turn][]);
  } catch {
    // Storage may be forbidden: then it holds for this visit.
    turned = new Map();
  }
  return turned;
}

/** Turns a page or picture a quarter, clockwise, wherever it is shown on this device. */
export function turnFurther(name: string): void {
  const next = new Map(read());
  const turn = turnOn(next.get(name) ?? 0);
  next.delete(name);
  if (turn !== 0) next.set(name, turn);
  turned = new Map([...next].slice(-MOST));
  try {
    localStorage.setItem(KEY, JSON.stringify([...turned]));
  } catch {
    // As above.
  }
  listeners.forEach((tell) => tell());
}

const subscribe = (tell: () => void) => {
  listeners.add(tell);
  return () => void listeners.delete(tell);
};

/**
 * How a page or picture is turned, and turning it a quarter further.
 *
 * @param name of the file, or of its page
 */
export function useTurn(name: string): [Turn, () => void] {
  const turn = useSyncExternalStore(
    subscribe,
    () => read().get(name) ?? 0,
    () => 0 as Turn,
  );
  return [turn, () => turnFurther(name)];
}
