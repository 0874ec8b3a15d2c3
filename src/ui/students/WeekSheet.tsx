import Link from "next/link";
import type { Say } from "@/core/language/say";
import type { WeekChild, WeekLetter, WeekLine } from "@/core/views/overviewViews";
import { Moon } from "../kit/Moon";
import { Empty } from "../kit/Notice";

/** One child's week, plainly: what is to be done, where it is, what it earned, and what teachers wrote. */
export function WeekSheet({
  child,
  present,
  say,
}: {
  child: WeekChild;
  present: boolean;
  say: Say<"week">;
}) {
  return (
    <section className="mt-6 break-inside-avoid" aria-label={child.name}>
      <h2>{child.name}</h2>
      {child.lines.length === 0 ? (
        <Empty title={say(present ? "nothingNow" : "nothingThen")} />
      ) : (
        <table className="sheet-table mt-2">
          <thead>
            <tr className="label">
              <th scope="col">{say("work")}</th>
              <th scope="col">{say("due")}</th>
              <th scope="col">{say(present ? "where" : "whereNow")}</th>
              <th scope="col">{say("score")}</th>
            </tr>
          </thead>
          <tbody>
            {child.lines.map((line, n) => (
              <Line key={n} line={line} say={say} />
            ))}
          </tbody>
        </table>
      )}
      {child.letters.length > 0 ? (
        <>
          <h3 className="label mt-4">{say("fromTeachers")}</h3>
          <ul>
            {child.letters.map((letter) => (
              <Letter key={letter.id} letter={letter} say={say} />
            ))}
          </ul>
        </>
      ) : null}
    </section>
  );
}

function Line({ line, say }: { line: WeekLine; say: Say<"week"> }) {
  return (
    <tr>
      <td>
        <span className="font-serif text-[1.0625rem]">{line.title}</span>{" "}
        <span className="text-sm text-soft">{line.section}</span>
      </td>
      <td>{line.due}</td>
      <td>
        <span className="flex items-center gap-2">
          <Moon moon={line.moon} named={false} />
          <span>
            {line.state}
            {line.back ? (
              <span className="text-sm text-soft"> · {say("cameBack", { when: line.back })}</span>
            ) : null}
          </span>
        </span>
      </td>
      <td className="tabular-nums">{line.score ?? ""}</td>
    </tr>
  );
}

function Letter({ letter, say }: { letter: WeekLetter; say: Say<"week"> }) {
  return (
    <li className="border-b border-line py-2 last:border-0">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <Link
          href="/letters"
          prefetch={false}
          className="inline-flex min-h-6 items-center font-serif text-[1.0625rem] max-sm:min-h-11"
        >
          {letter.unread ? "★ " : ""}
          {letter.subject}
        </Link>
        <span className="text-sm text-soft">
          {say("letterFrom", { name: letter.from, when: letter.when })}
        </span>
      </p>
      <p className="line-clamp-4 whitespace-pre-wrap print:line-clamp-none">{letter.body}</p>
    </li>
  );
}
