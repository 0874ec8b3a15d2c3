"use client";

import { useState } from "react";
import Link from "next/link";
import { contract } from "@/core/api/contract";
import { sayNote } from "@/core/text/noteText";
import { sayCount } from "@/core/text/sayCount";
import type { AgainAndAgain, OverTime } from "@/core/views/studentViews";
import { call } from "../client";
import { Notice } from "../kit/Notice";
import { Weeks } from "./Charts";
import { useFetched } from "../useFetched";

/** Requests and rounds in figures, with others beside them. */
export function OverTimeLine({
  overTime,
  more = [],
}: {
  overTime: OverTime;
  more?: readonly [string, string][];
}) {
  const facts = [
    ["handed back for good", String(overTime.back)],
    ["rounds until then", overTime.rounds ?? "–"],
    ["requests asked", String(overTime.asked)],
    ["settled", String(overTime.settled)],
    ["asked again", String(overTime.again)],
    ["open now", String(overTime.open)],
    ...more,
  ] as const;
  return (
    <dl className="mt-4 flex flex-wrap gap-x-8 gap-y-2 border-y border-line py-3">
      {facts.map(([name, value]) => (
        <div key={name}>
          <dd className="font-serif text-2xl">{value}</dd>
          <dt className="label">{name}</dt>
        </div>
      ))}
    </dl>
  );
}

/** Comments that came on several pieces, and whether they stopped. */
export function Again({ comments, whose }: { comments: readonly AgainAndAgain[]; whose: string }) {
  return (
    <section aria-labelledby="again">
      <h2 id="again">What came again and again</h2>
      {comments.length === 0 ? (
        <p className="mt-1 text-soft">No comment of the bank came on two of {whose}.</p>
      ) : null}
      <ul className="mt-2">
        {comments.map((comment) => (
          <li key={comment.text} className="border-t border-line py-1.5">
            {sayNote(comment.text)}
            <span className="block text-sm text-soft">
              on {sayCount(comment.pieces, "piece")}, last {comment.last}
              {comment.since > 0 ? (
                <span className="text-moss">
                  {" "}
                  · ✓ not on the {sayCount(comment.since, "piece")} since
                </span>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A section over time, fetched when it is opened: all of it, student by student, and what comes again and again. */
export function SectionOverTimeFold({ sectionId }: { sectionId: string }) {
  const [open, setOpen] = useState(false);
  return (
    <details className="mt-10" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="label cursor-pointer max-sm:leading-[2.75rem]">
        Requests and rounds over time
      </summary>
      {open ? <Fetched sectionId={sectionId} /> : null}
    </details>
  );
}

function Fetched({ sectionId }: { sectionId: string }) {
  const { found, problem } = useFetched(sectionId, () =>
    call(contract.sectionOverTime, { params: { sectionId } }),
  );
  if (problem) return <Notice ink="ember">{problem}</Notice>;
  if (!found)
    return (
      <p role="status" className="text-soft">
        Counting …
      </p>
    );
  const busy = found.students.filter((s) => s.asked > 0).sort((a, b) => b.open - a.open || b.again - a.again); // prettier-ignore
  return (
    <>
      <OverTimeLine overTime={found.all} />
      <Weeks weeks={found.weeks} />
      <div className="mt-6 grid gap-x-12 gap-y-8 lg:grid-cols-2">
        <div className="overflow-x-auto">
          <table className="sheet-table">
            <thead>
              <tr className="label">
                <th scope="col">student</th>
                <th scope="col">asked</th>
                <th scope="col">settled</th>
                <th scope="col">again</th>
                <th scope="col">open</th>
                <th scope="col">rounds</th>
              </tr>
            </thead>
            <tbody>
              {busy.map((student) => (
                <tr key={student.studentId}>
                  <th scope="row" className="border-b border-line! font-normal">
                    <Link href={`/students/${student.studentId}`} prefetch={false}>
                      {student.student}
                    </Link>
                  </th>
                  <td>{student.asked}</td>
                  <td>{student.settled}</td>
                  <td>{student.again}</td>
                  <td className={student.open > 0 ? "text-ember" : ""}>{student.open}</td>
                  <td>{student.rounds ?? "–"}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <Again comments={found.comments} whose="this section’s pieces" />
      </div>
    </>
  );
}
