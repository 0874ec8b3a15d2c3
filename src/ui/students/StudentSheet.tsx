"use client";

import Link from "next/link";
import { useState } from "react";
import type { StudentPage } from "@/core/views/studentViews";
import { Button } from "../kit/Button";
import { PrintButton } from "../kit/PrintButton";
import { CourseOverTerm } from "./Charts";
import { Again, OverTimeLine } from "./OverTime";
import { Moon } from "../kit/Moon";
import { WriteLetter } from "../letters/WriteLetter";

/** Everything of one student, for a meeting; printed without the teachers' private notes. */
export function StudentSheet({ page }: { page: StudentPage }) {
  const [writing, setWriting] = useState(false);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1>{page.student}</h1>
        <p className="text-soft">
          {page.sections.map((section) => `${section.name}, ${section.course}`).join(" · ")}
        </p>
        <Button small className="ml-auto print:hidden" onClick={() => setWriting(true)}>
          Write a letter …
        </Button>
        <PrintButton>Print without private notes</PrintButton>
      </div>
      <OverTimeLine overTime={page.overTime} more={lateAndMissing(page)} />
      <CourseOverTerm course={page.course} />
      <Work lines={page.lines} />
      <div className="mt-10 grid gap-x-12 gap-y-10 lg:grid-cols-2">
        <Again comments={page.comments} whose="their pieces" />
        <Talk talk={page.talk} />
      </div>
      <LettersOfStudent letters={page.letters} />
      <Notes notes={page.notes} />
      {writing ? (
        <WriteLetter
          sectionId={page.sections[0]!.id}
          handOutId={null}
          about=""
          students={[{ studentId: page.studentId, student: page.student }]}
          onClose={() => setWriting(false)}
        />
      ) : null}
    </>
  );
}

function lateAndMissing({ lines }: StudentPage): [string, string][] {
  const late = lines.filter((line) => line.moon.late).length;
  const missing = lines.filter((line) => line.moon.missing).length;
  return [
    ["late", String(late)],
    ["missing", String(missing)],
  ];
}

/** Letters to this student and their guardians, with what came back. */
function LettersOfStudent({ letters }: { letters: StudentPage["letters"] }) {
  if (letters.length === 0) return null;
  return (
    <section aria-labelledby="letters" className="mt-10">
      <h2 id="letters">Letters</h2>
      <ul className="mt-2">
        {letters.map((letter) => (
          <li key={letter.letterId} className="border-t border-line py-2">
            <p>
              <span className="font-serif text-lg">{letter.subject}</span>{" "}
              <span className="text-sm text-soft">
                {letter.mine ? "I" : letter.by} to {letter.to.map((copy) => copy.name).join(", ")},{" "}
                {letter.when}
              </span>
            </p>
            <p className="max-w-[42rem] whitespace-pre-wrap">{letter.body}</p>
            {letter.to.flatMap((copy) =>
              copy.words.map((word) => (
                <p key={word.id} className="mt-1 max-w-[42rem] border-l-2 border-plum pl-3">
                  <span className="text-sm text-soft">
                    {word.mine ? "I" : word.author}, {word.when}:
                  </span>{" "}
                  {word.body}
                </p>
              )),
            )}
          </li>
        ))}
      </ul>
    </section>
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
