"use client";

import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import { sayNote } from "@/core/text/noteText";
import type { StudentPage } from "@/core/views/studentViews";
import { Button } from "../kit/Button";
import { Moon } from "../kit/Moon";

/** Everything of one student, for a meeting; printed without the teachers' private notes. */
export function StudentSheet({ page }: { page: StudentPage }) {
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1>{page.student}</h1>
        <p className="text-soft">
          {page.sections.map((section) => `${section.name}, ${section.course}`).join(" · ")}
        </p>
        <Button small className="ml-auto print:hidden" onClick={() => window.print()}>
          Print without private notes
        </Button>
      </div>
      <OverTime page={page} />
      <Work lines={page.lines} />
      <div className="mt-10 grid gap-x-12 gap-y-10 lg:grid-cols-2">
        <Again comments={page.comments} />
        <Talk talk={page.talk} />
      </div>
      <Notes notes={page.notes} />
    </>
  );
}

function OverTime({ page: { overTime, lines } }: { page: StudentPage }) {
  const late = lines.filter((line) => line.moon.late).length;
  const missing = lines.filter((line) => line.moon.missing).length;
  const facts = [
    ["handed back for good", String(overTime.back)],
    ["rounds until then", overTime.rounds ?? "–"],
    ["requests asked", String(overTime.asked)],
    ["settled", String(overTime.settled)],
    ["asked again", String(overTime.again)],
    ["open now", String(overTime.open)],
    ["late", String(late)],
    ["missing", String(missing)],
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

function Work({ lines }: { lines: StudentPage["lines"] }) {
  return (
    <section aria-labelledby="work" className="mt-8">
      <h2 id="work">Work</h2>
      <div className="overflow-x-auto">
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col">work</th>
              <th scope="col">due</th>
              <th scope="col">where it is</th>
              <th scope="col">lateness</th>
              <th scope="col">requests</th>
              <th scope="col">score</th>
              <th scope="col">feedback</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.handOutId}>
                <th scope="row" className="border-b border-line! font-normal">
                  <Link
                    href={
                      line.onDesk
                        ? `/desk?pile=all&handOut=${line.handOutId}&piece=${line.pieceId}`
                        : `/hand-outs/${line.handOutId}`
                    }
                    prefetch={false}
                  >
                    {line.title}
                  </Link>{" "}
                  <span className="text-sm text-soft">{line.section}</span>
                </th>
                <td className="text-sm whitespace-nowrap">{line.due}</td>
                <td>
                  <span className="flex items-center gap-2 whitespace-nowrap">
                    <Moon moon={line.moon} named={false} /> {line.state}
                  </span>
                </td>
                <td className="text-sm text-ember">{line.lateness ? `◥ ${line.lateness}` : ""}</td>
                <td className="text-sm whitespace-nowrap">
                  {line.openRequests > 0 ? (
                    <span className="text-ember">{line.openRequests} open </span>
                  ) : null}
                  {line.settledRequests > 0 ? (
                    <span className="text-moss">{line.settledRequests} settled</span>
                  ) : null}
                </td>
                <td className="whitespace-nowrap">{line.score ?? ""}</td>
                <td className="text-sm text-soft">{line.feedback}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Again({ comments }: { comments: StudentPage["comments"] }) {
  return (
    <section aria-labelledby="again">
      <h2 id="again">What came again and again</h2>
      {comments.length === 0 ? (
        <p className="mt-1 text-soft">No comment of the bank came on two of their pieces.</p>
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

function Talk({ talk }: { talk: StudentPage["talk"] }) {
  return (
    <section aria-labelledby="talk">
      <h2 id="talk">What was said</h2>
      {talk.length === 0 ? <p className="mt-1 text-soft">Nothing yet.</p> : null}
      <ul className="mt-2">
        {talk.map((word, n) => (
          <li key={n} className="border-t border-line py-1.5">
            <span className="text-sm text-soft">
              {word.author}, {word.when}, on{" "}
              <Link href={`/desk?pile=all&piece=${word.pieceId}`} prefetch={false}>
                {word.title}
              </Link>
            </span>
            <span className="block whitespace-pre-wrap">{word.body}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Notes({ notes }: { notes: StudentPage["notes"] }) {
  if (notes.length === 0) return null;
  return (
    <section
      aria-labelledby="private"
      className="mt-10 border-l-2 border-dashed border-line-strong pl-4 print:hidden"
    >
      <h2 id="private">Private notes</h2>
      <p className="text-sm text-soft">For the section’s teachers only. Not printed.</p>
      <ul className="mt-2">
        {notes.map((note, n) => (
          <li key={n} className="border-t border-line py-1.5">
            <span className="text-sm text-soft">
              {note.author}, {note.when}, {note.section}
            </span>
            <span className="block whitespace-pre-wrap">{note.body}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
