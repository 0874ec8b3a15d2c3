/** Next.js calls this once when a server starts. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { startHeartbeat } = await import("./server/db/heartbeat");
  startHeartbeat();
  const { startCalendarClock } = await import("./server/calendarClock");
  startCalendarClock();
  const { startWorker } = await import("./server/background/worker");
  startWorker();
  const { startClock } = await import("./server/clock/everyMinute");
  startClock();
}
