import type { ScoreChangeView } from "@/core/views/views";

/** Where a score was changed after it came back: what it was, what it is, who changed it and when. */
export function ScoreChanges({ changes }: { changes: readonly ScoreChangeView[] }) {
  if (changes.length === 0) return null;
  return (
    <ul className="mt-1 text-sm">
      {changes.map((change) => (
        <li key={`${change.round} ${change.when} ${change.words}`}>
          <span className={change.rose ? "text-moss" : "text-ember"} aria-hidden="true">
            {change.rose ? "▲" : "▼"}
          </span>{" "}
          {change.words}{" "}
          <span className="text-soft">
            ({change.by}, {change.when})
          </span>
          {change.reason ? <span className="text-soft">: {change.reason}</span> : null}
        </li>
      ))}
    </ul>
  );
}
