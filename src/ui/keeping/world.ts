import { keep, kept, keptUnder, release, type Kept } from "../device";

/** What keeping and sending needs of the world around it; tests bring a clock and a device of their own. */
export type World = {
  now: () => Date;
  /** @returns what takes the timer away again */
  after: (ms: number, then: () => void) => () => void;
  /** Calls back when there may be a connection again. @returns what stops it */
  onWake: (then: () => void) => () => void;
  device: {
    keep: <T>(key: string, value: T, revision: number) => Promise<boolean>;
    kept: <T>(key: string) => Promise<Kept<T> | null>;
    keptUnder: <T>(prefix: string) => Promise<{ key: string; value: T; at: string }[]>;
    release: (key: string) => Promise<void>;
  };
};

/** Some browsers never say that they are online again: coming back to the tab counts too. */
function onWake(then: () => void): () => void {
  const seen = () => document.visibilityState === "visible" && then();
  window.addEventListener("online", then);
  window.addEventListener("pageshow", then);
  document.addEventListener("visibilitychange", seen);
  return () => {
    window.removeEventListener("online", then);
    window.removeEventListener("pageshow", then);
    document.removeEventListener("visibilitychange", seen);
  };
}

export const browserWorld: World = {
  now: () => new Date(),
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => clearTimeout(timer);
  },
  onWake,
  device: { keep, kept, keptUnder, release },
};
