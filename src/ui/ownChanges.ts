/** When this page last changed something itself: what it is told of a moment later is most likely that. */
let changedAt = -Infinity;

/** An act of this page was done. */
export function noteOwnChange(): void {
  changedAt = Date.now();
}

/** Milliseconds since the last act of this page. */
export const sinceOwnChange = (): number => Date.now() - changedAt;
