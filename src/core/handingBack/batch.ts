/**
 * The life of one act of handing back: which state it is in, who may stop it, and what is refused. Each piece of it
 * waits, goes or stays by itself; what became of the act follows from its pieces and is not stored beside them.
 *
 *     waiting → going → done
 *        └──────┴────→ called back      (what had gone has gone, and can be taken back)
 */
export type BatchFacts = {
  goesAt: Date;
  calledBackAt: Date | null;
  /** Pieces that wait, are back, and stayed. */
  waiting: number;
  gone: number;
};

export const BATCH_STATES = ["waiting", "going", "done", "called back"] as const;
export type BatchState = (typeof BATCH_STATES)[number];

export function batchState(batch: BatchFacts, now: Date): BatchState {
  if (batch.calledBackAt !== null) return "called back";
  if (batch.waiting === 0) return "done";
  return now < batch.goesAt ? "waiting" : "going";
}

export type BatchMove = "callBack" | "goOn" | "takeBack";
export type Decided = { allowed: true } | { allowed: false; reason: string };

const REFUSALS: Readonly<Record<BatchMove, Partial<Record<BatchState, string>>>> = {
  callBack: {
    done: "All of it is handed back already. Take it back instead.",
    "called back": "It is called back already: nothing more of it goes.",
  },
  goOn: {
    waiting: "It goes by itself when its time comes.",
    done: "All of it is handed back already.",
    "called back": "It was called back. Hand back anew what should go.",
  },
  takeBack: {
    waiting: "Nothing of it is handed back yet. Call it back instead.",
    going: "It is being handed back just now. Call it back first.",
  },
};

/**
 * Decides one move on an act at the moment `now`; never throws.
 *
 * @example decideBatch(batch, "callBack", now) // { allowed: true }
 */
export function decideBatch(batch: BatchFacts, move: BatchMove, now: Date): Decided {
  const reason = REFUSALS[move][batchState(batch, now)];
  if (reason !== undefined) return { allowed: false, reason };
  if (move === "takeBack" && batch.gone === 0)
    return { allowed: false, reason: "Nothing of it was handed back." };
  return { allowed: true };
}
