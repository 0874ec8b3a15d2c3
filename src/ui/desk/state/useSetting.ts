"use client";

import { useCallback, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { SettingName } from "@/core/views/deskViews";
import { call } from "../../client";

/** Something a teacher has set for themselves: shown at once, kept on the server, so that it is so on every machine. What is only shown is not kept. */
export function useSetting<T extends object | string | number | null>(
  name: SettingName,
  first: T,
): [value: T, set: (value: T) => void, show: (value: T) => void] {
  const [value, setValue] = useState(first);
  const set = useCallback(
    (next: T) => {
      setValue(next);
      // A choice that could not be kept holds for this visit; it is no work that could be lost.
      void call(contract.setSetting, { body: { name, value: next } }).catch(() => undefined);
    },
    [name],
  );
  return [value, set, setValue];
}

/** Keeps where the teacher is a moment after they got there. */
export function useKeepPlace(): (place: {
  pile: string;
  handOut: string | null;
  piece: string;
  scroll: number;
}) => void {
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  return useCallback((place) => {
    clearTimeout(timer.current);
    timer.current = setTimeout(
      () =>
        void call(contract.setSetting, { body: { name: "desk.place", value: place } }).catch(
          () => undefined,
        ),
      1200,
    );
  }, []);
}
