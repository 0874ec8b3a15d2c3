/** Pressed and stored within so long is one moment: there was a connection. */
const SAME_MOMENT_MS = 15_000;

/**
 * When Hand in was pressed by the device's clock, where that is another moment than the server's; null where it
 * is not. A claim that lies ahead, or before the work opened, is a wrong clock and none.
 *
 * @param claim an ISO instant as the device sent it
 */
export function pressedAt(claim: string | null | undefined, opensAt: Date, now: Date): Date | null {
  const at = new Date(claim ?? Number.NaN);
  if (Number.isNaN(at.getTime()) || at <= opensAt) return null;
  return now.getTime() - at.getTime() > SAME_MOMENT_MS ? at : null;
}
