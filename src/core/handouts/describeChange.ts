import { isScored } from "../scores/scales";
import { canonicalJson } from "../text/canonical";
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
    late?.kind === "deduct"
      ? `late: ${late.percent} % each ${late.per}`
      : late?.kind === "closed"
        ? "nothing after it closes"
        : "",
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
  now: Date,
  zone: string,
): ChangeWords {
  const time = (at: Date | null, none: string) => (at ? sayTime(at, now, zone) : none);
  const words: string[] = [];
  const told: string[] = [];
  const moved = (a: Date | null, b: Date | null) => a?.getTime() !== b?.getTime();
  const students = `${touched.students} ${touched.students === 1 ? "student" : "students"}`;
  if (before.title !== after.title) {
    words.push(`Title: “${before.title}” → “${after.title}”`);
    told.push(`it is now called “${after.title}”`);
  }
  if (before.task !== after.task) {
    words.push(
      `The task was changed; ${touched.begun} of ${students} ${touched.begun === 1 ? "has" : "have"} begun`,
    );
    told.push("the task was changed");
  }
  if (moved(before.opensAt, after.opensAt)) {
    words.push(`Opens: ${time(before.opensAt, "")} → ${time(after.opensAt, "")}`);
    if (after.opensAt > now) told.push(`it opens ${time(after.opensAt, "")}`);
  }
  if (moved(before.dueAt, after.dueAt)) {
    const kept =
      touched.ownDue > 0
        ? `; ${touched.ownDue} with a due time of their own ${touched.ownDue === 1 ? "keeps" : "keep"} it`
        : "";
    const inAlready =
      touched.handedIn > 0
        ? `; ${touched.handedIn} ${touched.handedIn === 1 ? "has" : "have"} handed in, and lateness is counted anew`
        : "";
    words.push(
      `Due: ${time(before.dueAt, "")} → ${time(after.dueAt, "")}, for ${students}${kept}${inAlready}`,
    );
    told.push(`due ${time(after.dueAt, "")} (it was ${time(before.dueAt, "")})`);
  }
  if (moved(before.closesAt, after.closesAt)) {
    words.push(`Closes: ${time(before.closesAt, "never")} → ${time(after.closesAt, "never")}`);
    told.push(after.closesAt ? `closes ${time(after.closesAt, "")}` : "it no longer closes");
  }
  if (moved(before.promisedAt, after.promisedAt))
    words.push(
      `Promised back: ${time(before.promisedAt, "no date")} → ${time(after.promisedAt, "no date")}`,
    );
  if (before.graceMinutes !== after.graceMinutes)
    words.push(`Grace: ${before.graceMinutes} → ${after.graceMinutes} min`);
  if (before.counting !== after.counting)
    words.push(`How it counts: ${before.counting} → ${after.counting}`);
  return { words, notice: told.length > 0 ? `Changed: ${told.join("; ")}.` : null };
}
