"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { contract } from "@/core/api/contract";
import type { SectionNotes } from "@/core/views/sectionNoteViews";
import { call, sayProblem } from "../../client";
import { ToTheClass } from "../../sectionNotes/ToTheClass";
import { ClipsProvider } from "../../voice/clips";

/** Beside the work: what was said to all the students of its hand-out, and saying something more, as when one mistake comes up again and again. */
export function ClassBeside({ handOutId }: { handOutId: string }) {
  const client = useQueryClient();
  const key = ["to the class", handOutId];
  const { data, error } = useQuery({
    queryKey: key,
    queryFn: () => call(contract.sectionNotes, { params: { handOutId } }),
    staleTime: 30_000,
  });
  if (error)
    return (
      <p role="alert" className="text-ember">
        ▲ {sayProblem(error)}
      </p>
    );
  if (!data)
    return (
      <p role="status" className="text-soft">
        Fetching what was said …
      </p>
    );
  return (
    <ClipsProvider clips={data.clips} mostSeconds={data.mostSeconds}>
      <ToTheClass
        view={data}
        onView={(next) => client.setQueryData<SectionNotes>(key, next)}
        heading={null}
      />
    </ClipsProvider>
  );
}
