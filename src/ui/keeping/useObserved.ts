"use client";

import { useSyncExternalStore } from "react";
import type { Observable } from "./Observable";

/** The state of something observable as it is now; the component is drawn again when it is another. */
export const useObserved = <State extends object>(of: Observable<State>): State =>
  useSyncExternalStore(of.subscribe, of.getState, of.getState);
