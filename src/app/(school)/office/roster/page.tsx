import { pageCall } from "@/server/page";
import { settings } from "@/server/settings";
import { listRuns } from "@/server/roster/runs";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { Page } from "@/ui/kit/Page";
import { RosterImport } from "@/ui/roster/RosterImport";

export const metadata = { title: "Roster" };

const STATES = {
  checked: "looked at, not applied",
  applying: "being applied",
  applied: "applied",
  failed: "failed, nothing was changed",
} as const;

export default async function OfficeRosterPage() {
  const runs = await listRuns(await pageCall("office"));
  return (
    <Page width="reading">
      <OfficeHead title="Roster" />
      <p>
        Bring in people and classes. What a file would change is shown first; it is applied as a
        whole or not at all, nobody is ever deleted, and the same file a second time changes
        nothing. <a href="/api/roster">Write the roster out</a> as a OneRoster 1.2 CSV package.
      </p>
      <RosterImport sectionId={null} records={settings().mode === "demo"} />
      {runs.length > 0 ? (
        <>
          <h2 className="mt-8">What was brought in before</h2>
          <ul className="mt-1 text-sm">
            {runs.map((run) => (
              <li key={run.id} className="flex flex-wrap gap-x-4 border-t border-line py-1.5">
                <span className="w-36 text-soft">{run.when}</span>
                <span className="flex-1">{run.name}</span>
                <span>{run.by}</span>
                <span className={run.state === "failed" ? "text-ember" : "text-soft"}>
                  {STATES[run.state]}
                  {run.state === "applied" ? `, ${run.changes} changes` : ""}
                </span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
    </Page>
  );
}
