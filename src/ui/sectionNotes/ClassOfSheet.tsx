"use client";

import { useState } from "react";
import type { SectionNotes } from "@/core/views/sectionNoteViews";
import { ClipsProvider } from "../voice/clips";
import { ToTheClass } from "./ToTheClass";

/** On a hand-out's sheet: what was said to its students, and what they answered. */
export function ClassOfSheet({ first }: { first: SectionNotes }) {
  const [view, setView] = useState(first);
  return (
    <ClipsProvider clips={view.clips} mostSeconds={view.mostSeconds}>
      <ToTheClass view={view} onView={setView} heading="To the class" />
    </ClipsProvider>
  );
}
