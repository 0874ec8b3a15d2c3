/** What the following of changes needs of the browser; tests bring their own. */
export type LiveWorld = {
  /** Opens the stream. @returns what closes it */
  open: (on: { moved: () => void; opened: () => void; lost: () => void }) => () => void;
  /** Calls back after so many milliseconds. @returns what takes it back */
  after: (ms: number, then: () => void) => () => void;
  /** Calls back when the page is looked at, or no more. @returns what stops it */
  onSight: (then: (seen: boolean) => void) => () => void;
  seen: () => boolean;
};

/** Where no stream comes through, it is asked so often, in milliseconds. */
export const ASK_EVERY = 60_000;

/**
 * Calls back whenever something may have moved: by the stream while the page is looked at, else by asking now and then.
 * A page nobody looks at holds no connection; when it is looked at again, what it missed counts as one move.
 *
 * @returns ends it
 */
export function followLive(world: LiveWorld, moved: () => void): () => void {
  let close: (() => void) | null = null;
  let stopAsking = () => {};
  let missed = false;
  const ask = () => {
    stopAsking();
    stopAsking = world.after(ASK_EVERY, () => {
      if (world.seen()) moved();
      ask();
    });
  };
  const begin = () => {
    if (close) return;
    close = world.open({
      moved,
      // Whatever moved while there was none was not told.
      opened: () => {
        stopAsking();
        if (missed) moved();
        missed = false;
      },
      lost: () => {
        missed = true;
        ask();
      },
    });
  };
  const end = () => {
    close?.();
    close = null;
    stopAsking();
  };
  const stop = world.onSight((seen) => {
    if (seen) return begin();
    end();
    missed = true;
  });
  if (world.seen()) begin();
  return () => {
    stop();
    end();
  };
}

export const browserLive: LiveWorld = {
  open({ moved, opened, lost }) {
    const source = new EventSource("/api/live");
    source.addEventListener("moved", moved);
    source.onopen = opened;
    source.onerror = lost;
    return () => source.close();
  },
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => clearTimeout(timer);
  },
  onSight(then) {
    const told = () => then(document.visibilityState === "visible");
    document.addEventListener("visibilitychange", told);
    return () => document.removeEventListener("visibilitychange", told);
  },
  seen: () => document.visibilityState === "visible",
};
