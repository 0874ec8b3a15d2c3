import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import { sayMinutes } from "@/core/today/pace";
import type { TodayLine } from "@/core/views/overviewViews";
import { classes } from "../kit/classes";

/** The columns of pieces: what each is called, what it holds, in which ink. */
const COLUMNS = [
  { kind: "new", head: "new in", ink: "text-tide" },
  { kind: "again", head: "in again", ink: "text-plum" },
  { kind: "late", head: "late in", ink: "text-ember" },
  { kind: "drafted", head: "drafted", ink: "text-ink" },
  { kind: "questions", head: "questions", ink: "text-tide" },
] as const;

const GRID =
  "lg:grid lg:grid-cols-[minmax(0,1fr)_repeat(5,4rem)_11rem_9rem_6.5rem_4.5rem] lg:items-baseline lg:gap-x-2";

/**
 * Everything that waits, one line for each hand-out, the most pressing first. A count is the way to the Desk with just
 * those pieces; on a phone a line folds, and only what there is is said.
 */
export function Waiting({ lines }: { lines: readonly TodayLine[] }) {
  const minutes = lines.reduce((sum, line) => sum + (line.minutes ?? 0), 0);
  return (
    <>
      <Ways className="lg:hidden" />
      <div className={classes(GRID, "hidden border-b border-line-strong pb-0.5")}>
        <span className="flex items-baseline gap-x-4">
          <span className="label" aria-hidden="true">
            what waits
          </span>
          <Ways />
        </span>
        {COLUMNS.map(({ kind, head }) => (
          <span key={kind} className="label text-right whitespace-nowrap" aria-hidden="true">
            {head}
          </span>
        ))}
        <span className="label pl-3" aria-hidden="true">
          also
        </span>
        <span className="label" aria-hidden="true">
          promised back
        </span>
        <span className="label" aria-hidden="true">
          oldest
        </span>
        <span className="label text-right" title="at your own pace at the Desk" aria-hidden="true">
          {minutes > 0 ? sayMinutes(minutes) : "to read"}
        </span>
      </div>
      <ul aria-label="What waits, the most pressing first">
        {lines.map((line) => (
          <Line key={line.handOutId} line={line} />
        ))}
      </ul>
    </>
  );
}

/** Other ways to go through it. */
const WAYS = [
  { href: "/today/plan", words: "a plan for reading it" },
  { href: "/today/list", words: "a list to tick off" },
];

function Ways({ className }: { className?: string }) {
  return (
    <span className={classes("flex gap-x-4", className)}>
      {WAYS.map(({ href, words }) => (
        <Link
          key={href}
          href={href}
          prefetch={false}
          className="inline-flex min-h-6 shrink-0 items-center text-sm whitespace-nowrap max-sm:min-h-11"
        >
          {words}
        </Link>
      ))}
    </span>
  );
}

function Line({ line }: { line: TodayLine }) {
  return (
    <li
      className={classes(
        GRID,
        "border-b border-line leading-6 max-lg:flex max-lg:flex-wrap max-lg:items-baseline max-lg:py-2 lg:py-[2px]",
      )}
    >
      <span className="flex min-w-0 items-baseline gap-2 max-lg:w-full">
        <Link
          href={`/hand-outs/${line.handOutId}`}
          prefetch={false}
          title={line.title}
          className="truncate font-serif text-[1.0625rem] text-ink no-underline hover:underline"
        >
          {line.title}
        </Link>
        <span className="shrink-0 text-sm text-soft">{line.section}</span>
      </span>
      {COLUMNS.map((column) => (
        <Count key={column.kind} line={line} column={column} />
      ))}
      <Also line={line} />
      <span
        className={classes(
          "text-sm whitespace-nowrap max-lg:mr-3 max-lg:empty:hidden",
          line.broken ? "font-semibold text-ember" : "text-soft",
        )}
      >
        {line.promised && !line.broken ? <span className="lg:hidden">promised </span> : null}
        {sayPromise(line)}
      </span>
      <span className="text-sm whitespace-nowrap text-soft max-lg:mr-3 max-lg:empty:hidden">
        {line.oldest ? <span className="lg:hidden">oldest </span> : null}
        {line.oldest}
      </span>
      <span className="text-right text-sm whitespace-nowrap text-soft">
        {line.minutes === null ? "" : sayMinutes(line.minutes)}
      </span>
    </li>
  );
}

function sayPromise({ promised, broken }: TodayLine): string {
  if (!promised) return "";
  return broken ? `▲ was ${promised}` : promised;
}

function Count({ line, column }: { line: TodayLine; column: (typeof COLUMNS)[number] }) {
  const count = line.counts[column.kind];
  if (count === 0)
    return (
      <span className="text-right text-line-strong max-lg:hidden" aria-hidden="true">
        ·
      </span>
    );
  return (
    <span className="text-right max-lg:mr-3">
      <Link
        href={`/desk?pile=${column.kind}&handOut=${line.handOutId}`}
        prefetch={false}
        aria-label={`${count} ${column.head}: ${line.title}, ${line.section}`}
        className={classes(
          "inline-block min-w-8 text-right font-serif text-lg leading-6 font-semibold max-sm:leading-[2.75rem]",
          column.ink,
        )}
      >
        {count}
        <span className="ml-1 font-sans text-sm font-normal lg:hidden">{column.head}</span>
      </Link>
    </span>
  );
}

/** What is not a piece to read: drafts to hand back, checkpoints, words of students that wait for a yes. */
function Also({ line }: { line: TodayLine }) {
  const { counts, handOutId } = line;
  const said = [
    {
      n: counts.drafted,
      words: "hand back",
      href: `/hand-back?handOut=${handOutId}`,
    },
    {
      n: counts.checkpoints,
      words: sayCount(counts.checkpoints, "checkpoint"),
      href: `/desk?pile=all&handOut=${handOutId}&piece=${line.checkpointPieceId ?? ""}`,
    },
    {
      n: counts.answers,
      words: sayCount(counts.answers, "answer"),
      more: " to the class to read",
      href: `/hand-outs/${handOutId}#to-the-class`,
    },
    {
      n: counts.shown,
      words: sayCount(counts.shown, "comment"),
      more: " of students to read",
      href: `/hand-outs/${handOutId}#shown`,
    },
  ].filter(({ n }) => n > 0);
  return (
    <span className="flex min-w-0 flex-wrap gap-x-2 text-sm max-lg:mr-3 lg:pl-3">
      {said.map(({ words, more = "", href }) => (
        <Link
          key={href}
          href={href}
          prefetch={false}
          title={words + more}
          className="max-sm:leading-[2.75rem]"
        >
          {words}
          <span className="sr-only">
            {more}: {line.title}, {line.section}
          </span>
        </Link>
      ))}
    </span>
  );
}
