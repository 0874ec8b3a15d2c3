import { AREAS } from "@/core/roster/rosterPlan";
import type { RosterRunView } from "@/core/views/handOutViews";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";

const SIGNS = { new: "+", changed: "≠", gone: "−" } as const;

/** What a roster would change: problems first, then the counts, then the changes one by one. */
export function RosterReport({
  run,
  busy,
  onApply,
}: {
  run: RosterRunView;
  busy: boolean;
  onApply: () => void;
}) {
  const { report } = run;
  const shown = AREAS.filter((area) => Object.values(report.counts[area]).some((n) => n > 0));
  return (
    <section
      aria-label={`What ${run.name} would change`}
      className="grid gap-3 border border-line-strong p-4"
    >
      <p className="text-sm text-soft">
        {run.name}
        {report.encoding ? `, read as ${report.encoding}` : ""}
      </p>
      {report.problemCount > 0 ? (
        <Notice ink="ember">
          <p>
            {report.problemCount} {report.problemCount === 1 ? "problem" : "problems"}. Nothing of
            it is applied until {report.problemCount === 1 ? "it is" : "they are"} mended.
          </p>
          <ul className="mt-2 max-h-64 overflow-y-auto text-sm" tabIndex={0} aria-label="Problems">
            {report.problems.map((problem, n) => (
              <li key={n}>
                <strong>{problem.where}</strong>: {problem.words}
              </li>
            ))}
            {report.problemCount > report.problems.length ? (
              <li>… and {report.problemCount - report.problems.length} more.</li>
            ) : null}
          </ul>
        </Notice>
      ) : null}
      {shown.length > 0 ? (
        <table className="sheet-table w-auto!">
          <thead>
            <tr className="label">
              <th scope="col" />
              {(["new", "changed", "gone", "unchanged"] as const).map((what) => (
                <th key={what} scope="col" className="text-right!">
                  {what}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((area) => (
              <tr key={area}>
                <th scope="row" className="font-normal">
                  {area}
                </th>
                {(["new", "changed", "gone", "unchanged"] as const).map((what) => (
                  <td key={what} className="text-right">
                    {report.counts[area][what] || ""}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {report.lines.length > 0 ? (
        <details>
          <summary className="label cursor-pointer">One by one</summary>
          <ul className="mt-1 max-h-72 overflow-y-auto text-sm" tabIndex={0} aria-label="Changes">
            {report.lines.map((line, n) => (
              <li key={n}>
                <span className="label inline-block w-20">
                  <span aria-hidden="true">{SIGNS[line.what]}</span> {line.what}
                </span>{" "}
                {line.words}
              </li>
            ))}
            {run.changes > report.lines.length ? (
              <li className="text-soft">… and {run.changes - report.lines.length} more.</li>
            ) : null}
          </ul>
        </details>
      ) : null}
      {report.notes.map((note) => (
        <p key={note} className="text-sm text-soft">
          △ {note}
        </p>
      ))}
      {run.state === "applied" ? (
        <Notice ink="moss">Applied: {run.changes.toLocaleString("en")} changes.</Notice>
      ) : null}
      {run.state === "failed" ? <Notice ink="ember">{run.progress}</Notice> : null}
      {(run.state === "checked" || run.state === "failed") && report.problemCount === 0 ? (
        <Apply changes={run.changes} busy={busy} onApply={onApply} />
      ) : null}
    </section>
  );
}

type ApplyProps = { changes: number; busy: boolean; onApply: () => void };

const Apply = ({ changes, busy, onApply }: ApplyProps) =>
  changes === 0 ? (
    <p className="text-moss">✓ Everything in it is here already: there is nothing to apply.</p>
  ) : (
    <div>
      <Button ink="tide" disabled={busy} onClick={onApply}>
        Apply all {changes.toLocaleString("en")} changes
      </Button>
    </div>
  );
