/** A line that runs out: how much of the time to call something back is left. */
export function RunsOut({ left, of }: { left: number; of: number }) {
  const share = of > 0 ? Math.min(1, left / of) : 0;
  return (
    <span
      className="block h-1 w-full bg-line"
      role="progressbar"
      aria-label="Time to call it back"
      aria-valuemin={0}
      aria-valuemax={of}
      aria-valuenow={left}
    >
      <span className="block h-1 bg-tide" style={{ width: `${share * 100}%` }} />
    </span>
  );
}
