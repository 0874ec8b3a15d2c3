import { closesFor } from "../pieces/standing";
import { isScored } from "../scores/scales";
import { canonicalJson } from "../text/canonical";
import { sayCount } from "../text/sayCount";
import { sayTime } from "../time/words";
import { wallToInstant } from "../time/zone";
import { isWall } from "./checkDates";
import type { Plan } from "./plan";

/** What of a hand-out a change can touch. */
export type HandOutFacts = {
  title: string;
  opensAt: Date;
  dueAt: Date;
  closesAt: Date | null;
  promisedAt: Date | null;
  graceMinutes: number;
  task: string;
  counting: string;
};

function sayLate(late: Plan["counting"]["late"]): string {
  if (late?.kind === "deduct") return `late: ${late.percent} % each ${late.per}`;
  return late?.kind === "closed" ? "nothing after it closes" : "";
}

/** How work is scored, in few words: what a change of it is seen by. */
export function sayCounting({ counting }: Plan): string {
  const { kind, points, final, roundsMost, counts, extraCredit, late } = counting;
  return [
    kind,
    isScored(kind) ? `${points} possible` : "",
    final,
    roundsMost ? `${roundsMost} rounds` : "",
    counts ? "" : "does not count",
    extraCredit ? "extra credit" : "",
    sayLate(late),
  ]
    .filter(Boolean)
    .join(", ");
}

/** The facts of a plan with one row; times that are not typed in full yet count as unchanged. */
export function factsOf(plan: Plan, before: Date, zone: string): HandOutFacts {
  const row = plan.rows[0]!;
  const at = (wall: string | null) => (wall && isWall(wall) ? wallToInstant(wall, zone).at : null);
  return {
    title: plan.work.title.trim(),
    opensAt: at(row.opens) ?? before,
    dueAt: at(row.due) ?? before,
    closesAt: at(row.closes),
    promisedAt: at(row.promised),
    graceMinutes: plan.counting.graceMinutes,
    task: canonicalJson(plan.work.instructions),
    counting: sayCounting(plan),
  };
}

export type Touched = {
  students: number;
  /** Those whose own due time stays as it is. */ ownDue: number;
  begun: number;
  handedIn: number;
};
export type ChangeWords = {
  /** For the teacher, whom it touches; for the history. */ words: string[];
  /** For students; empty where it does not matter to them. */ notice: string | null;
};

/**
 * A change after handing out, in words: what changes, whom it touches, and what students should be told.
 *
 * Students are told of what they act on: the due time, opening and closing, the task. When feedback is
 * promised or how it counts is the teacher's to tell; it is in the history.
 */
export function describeChange(
  before: HandOutFacts,
  after: HandOutFacts,
  touched: Touched,
  clock: { now: Date; zone: string },
): ChangeWords {
  const change = { before, after, touched, ...clock };
  const said = [
    ...sayTitle(change),
    ...sayTask(change),
    ...sayOpens(change),
    ...sayDue(change),
    ...sayCloses(change),
    ...sayRest(change),
  ];
  const told = said.flatMap((s) => s.told ?? []);
  return {
    words: said.map((s) => s.words),
    notice: told.length > 0 ? `Changed: ${told.join("; ")}.` : null,
  };
}

/** Which due time of a piece was and is its student's own; `revising`: a revision has its own, whatever changes here. */
export type OwnTimes = { before: Date | null; after: Date | null; revising: boolean };

/**
 * What one student is told of a change: due and closes are theirs. Null: nothing of it matters to them.
 *
 * @example noticeFor(before, after, { before: tue, after: tue, revising: false }, clock)
 *   // null, where only the class's due time moved and theirs stays
 */
export function noticeFor(
  before: HandOutFacts,
  after: HandOutFacts,
  own: OwnTimes,
  clock: { now: Date; zone: string },
): string | null {
  const was = theirs(before, own.before);
  const is = own.revising
    ? { ...after, dueAt: was.dueAt, closesAt: was.closesAt }
    : theirs(after, own.after);
  const nobody = { students: 0, ownDue: 0, begun: 0, handedIn: 0 };
  return describeChange(was, is, nobody, clock).notice;
}

function theirs(facts: HandOutFacts, own: Date | null): HandOutFacts {
  if (!own) return facts;
  const { closesAt, graceMinutes } = facts;
  return { ...facts, dueAt: own, closesAt: closesFor(closesAt, { due: own, graceMinutes }) };
}

type Change = {
  before: HandOutFacts;
  after: HandOutFacts;
  touched: Touched;
  now: Date;
  zone: string;
};
/** One thing that changed: for the teacher, and what students are told of it. */
type Said = { words: string; told?: string };

const moved = (a: Date | null, b: Date | null) => a?.getTime() !== b?.getTime();

function timesOf({ now, zone }: Change): (at: Date | null, none?: string) => string {
  return (at, none = "") => (at ? sayTime(at, now, zone) : none);
}

function sayTitle({ before, after }: Change): Said[] {
  if (before.title === after.title) return [];
  return [
    {
      words: `Title: “${before.title}” → “${after.title}”`,
      told: `it is now called “${after.title}”`,
    },
  ];
}

function sayTask({ before, after, touched }: Change): Said[] {
  if (before.task === after.task) return [];
  const students = sayCount(touched.students, "student", "students");
  return [
    {
      words: `The task was changed; ${touched.begun} of ${students} ${touched.begun === 1 ? "has" : "have"} begun`,
      told: "the task was changed",
    },
  ];
}

function sayOpens(change: Change): Said[] {
  const { before, after, now } = change;
  if (!moved(before.opensAt, after.opensAt)) return [];
  const time = timesOf(change);
  return [
    {
      words: `Opens: ${time(before.opensAt)} → ${time(after.opensAt)}`,
      ...(after.opensAt > now ? { told: `it opens ${time(after.opensAt)}` } : {}),
    },
  ];
}

function sayDue(change: Change): Said[] {
  const { before, after, touched } = change;
  if (!moved(before.dueAt, after.dueAt)) return [];
  const time = timesOf(change);
  const [was, is] = [time(before.dueAt), time(after.dueAt)];
  const keep = touched.ownDue === 1 ? "keeps" : "keep";
  const kept =
    touched.ownDue > 0 ? `; ${touched.ownDue} with a due time of their own ${keep} it` : "";
  const inAlready =
    touched.handedIn > 0
      ? `; ${sayCount(touched.handedIn, "has", "have")} handed in, and lateness is counted anew`
      : "";
  const students = sayCount(touched.students, "student", "students");
  return [
    {
      words: `Due: ${was} → ${is}, for ${students}${kept}${inAlready}`,
      told: `due ${is} (it was ${was})`,
    },
  ];
}

function sayCloses(change: Change): Said[] {
  const { before, after } = change;
  if (!moved(before.closesAt, after.closesAt)) return [];
  const time = timesOf(change);
  return [
    {
      words: `Closes: ${time(before.closesAt, "never")} → ${time(after.closesAt, "never")}`,
      told: after.closesAt ? `closes ${time(after.closesAt)}` : "it no longer closes",
    },
  ];
}

/** What students are not told of by the program. */
function sayRest(change: Change): Said[] {
  const { before, after } = change;
  const time = timesOf(change);
  const promised = `Promised back: ${time(before.promisedAt, "no date")} → ${time(after.promisedAt, "no date")}`;
  const grace = `Grace: ${before.graceMinutes} → ${after.graceMinutes} min`;
  const counting = `How it counts: ${before.counting} → ${after.counting}`;
  return [
    ...(moved(before.promisedAt, after.promisedAt) ? [{ words: promised }] : []),
    ...(before.graceMinutes !== after.graceMinutes ? [{ words: grace }] : []),
    ...(before.counting !== after.counting ? [{ words: counting }] : []),
  ];
}
