"use client";

import { useState } from "react";
import type { SectionNotes } from "@/core/views/sectionNoteViews";
import { wasSaid, type CameUp as CameUpOften } from "@/core/sectionNotes/cameUp";
import { ClipsProvider } from "../voice/clips";
import { CameUp } from "./CameUp";
import { ToTheClass } from "./ToTheClass";

/** On a hand-out's sheet: what was said to its students, and what they answered. */
export function ClassOfSheet({
  first,
  cameUp,
}: {
  first: SectionNotes;
  cameUp: readonly CameUpOften[];
}) {
  const [view, setView] = useState(first);
  // What the class was just told does not come up any more.
  const said = view.notes.map((note) => note.body);
  const open = cameUp.filter((came) => !wasSaid(came.text, said));
  return (
    <ClipsProvider clips={view.clips} mostSeconds={view.mostSeconds}>
      <h2 className="border-b border-line pb-1">To the class</h2>
      <CameUp handOutId={view.handOutId} cameUp={open} onSaid={setView} />
      <ToTheClass view={view} onView={setView} heading={null} />
    </ClipsProvider>
  );
}
