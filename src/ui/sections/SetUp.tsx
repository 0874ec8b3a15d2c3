import type { SectionSetUp } from "@/core/views/handOutViews";
import { Notice } from "../kit/Notice";
import { Counting } from "./Counting";
import { GradeRulesForm } from "./GradeRulesForm";
import { Groups } from "./Groups";
import { Meetings } from "./Meetings";
import { Roster } from "./Roster";
import { Teachers } from "./Teachers";
import { Voice } from "./Voice";

/** How a section is set up. Its owner changes it; co-teachers read it. */
export function SetUp({ view }: { view: SectionSetUp }) {
  return (
    <>
      {view.mayChange ? null : (
        <Notice ink="tide" className="mb-6">
          Only the section’s owner changes this.
        </Notice>
      )}
      <fieldset
        disabled={!view.mayChange}
        className="grid items-start gap-x-12 gap-y-10 lg:grid-cols-2"
      >
        <legend className="sr-only">Set up {view.name}</legend>
        <div className="grid min-w-0 gap-10">
          <Meetings view={view} />
          <Groups view={view} />
          <Teachers view={view} />
          <Counting view={view} />
          <GradeRulesForm view={view} />
          <Voice view={view} />
        </div>
        <Roster view={view} />
      </fieldset>
    </>
  );
}
