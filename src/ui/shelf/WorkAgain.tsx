"use client";

import { fold } from "@/core/text/finding";
import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { ShelfView } from "@/core/views/handOutViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Empty, Notice } from "../kit/Notice";
import { TextField } from "../kit/Field";
import { CopyDialog } from "../handouts/CopyDialog";
import { useAct } from "../useAct";

/** Drafts and kept pages to go on with, and work handed out before, to be copied. */
export function WorkAgain({
  shelf,
  sections,
}: {
  shelf: ShelfView;
  sections: { id: string; name: string }[];
}) {
  const { act, busy, problem } = useAct();
  const [search, setSearch] = useState("");
  const [copying, setCopying] = useState<ShelfView["assignments"][number] | null>(null);
  const shown = shelf.assignments.filter((a) =>
    fold(`${a.title} ${a.course} ${a.sections.join(" ")}`).includes(fold(search)),
  );
  return (
    <div className="grid gap-10">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <section aria-labelledby="drafts">
        <h2 id="drafts">Drafts, and what you keep</h2>
        {shelf.drafts.length === 0 ? (
          <p className="text-soft">None. A page “Hand out” you leave is kept here by itself.</p>
        ) : null}
        <ul>
          {shelf.drafts.map((draft) => (
            <li
              key={draft.id}
              className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-2"
            >
              <Link
                href={`/hand-out?draft=${draft.id}`}
                prefetch={false}
                className="min-w-56 flex-1 font-serif text-lg"
              >
                {draft.title || "(no title yet)"}
              </Link>
              <span className="text-sm text-soft">
                {draft.kept ? "kept to use again" : "draft"}
                {draft.sections.length > 0 ? ` · ${draft.sections.join(", ")}` : ""} · {draft.when}
              </span>
              <Button
                small
                ink="quiet"
                disabled={busy}
                aria-label={`Throw away ${draft.title || "the draft without a title"}`}
                onClick={() =>
                  void act(() => call(contract.deleteDraft, { params: { draftId: draft.id } }))
                }
              >
                Throw away
              </Button>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="before">
        <div className="mb-2 flex flex-wrap items-end gap-4">
          <h2 id="before">Handed out before</h2>
          <div className="ml-auto w-64">
            <TextField
              label="Find"
              hideLabel
              placeholder="Find"
              value={search}
              onChange={(event) => setSearch(event.target.value)}
            />
          </div>
        </div>
        {shelf.assignments.length === 0 ? <Empty title="Nothing has been handed out yet" /> : null}
        <ul>
          {shown.map((assignment) => (
            <li
              key={assignment.handOutId}
              className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-2"
            >
              <Link
                href={`/hand-outs/${assignment.handOutId}`}
                prefetch={false}
                className="min-w-56 flex-1 font-serif text-lg text-ink"
              >
                {assignment.title}
              </Link>
              <span className="text-sm text-soft">
                {assignment.course} · {assignment.sections.join(", ")} · due {assignment.due}
                {assignment.withdrawn ? " · withdrawn" : ""}
                {!assignment.withdrawn && assignment.archived ? " · put away" : ""}
              </span>
              <Button small onClick={() => setCopying(assignment)}>
                Use again
              </Button>
            </li>
          ))}
        </ul>
      </section>
      {copying ? (
        <CopyDialog
          handOutId={copying.handOutId}
          title={`Use again: ${copying.title}`}
          sections={sections}
          first={[]}
          onClose={() => setCopying(null)}
        />
      ) : null}
    </div>
  );
}
