import { sayCount } from "../text/sayCount";

/** What is known of a draft that is about to go back with others. */
export type AboutToGo = {
  /** Words, marks, levels or a score: anything at all. */
  says: boolean;
  scored: boolean;
  /** Whether the work is scored at all. */
  scoring: boolean;
  /** Why the score cannot be read, or is out of range; null: it can. */
  scoreFault: string | null;
  /** Criteria of the rubric without a level; of how many. */
  levels: { missing: number; of: number };
  /** Requests of earlier rounds neither settled nor asked again. */
  unruled: number;
  /** Voices whose sound is not there yet. */
  silentVoices: number;
  /** It is read without its name, which shows when it is back. */
  hidden: boolean;
  /** Why it cannot be handed back at all; null: it can. */
  refused: string | null;
};

export const GAPS = [
  "refused",
  "nothing written",
  "score",
  "voice",
  "requests",
  "no score",
  "no level",
  "names",
] as const;
export type GapKind = (typeof GAPS)[number];
/** `stops`: it would say nothing, or something wrong, and cannot go like this. */
export type Gap = { kind: GapKind; words: string; stops: boolean };

/**
 * What is not ready about a draft, the gravest first; none: it can go. Pure; each in words for the teacher.
 *
 * @example readiness({ ...all, says: false })[0].words // "nothing written"
 */
export function readiness(about: AboutToGo): Gap[] {
  const { levels, unruled, silentVoices } = about;
  const gaps: (Gap | false)[] = [
    about.refused !== null && { kind: "refused", words: about.refused, stops: true },
    !about.says && { kind: "nothing written", words: "nothing written", stops: true },
    about.scoreFault !== null && { kind: "score", words: about.scoreFault, stops: true },
    silentVoices > 0 && {
      kind: "voice",
      words: `${sayCount(silentVoices, "voice note")} still without sound`,
      stops: false,
    },
    unruled > 0 && {
      kind: "requests",
      words: `${sayCount(unruled, "request")} of the last round not ruled on`,
      stops: false,
    },
    about.scoring && !about.scored && { kind: "no score", words: "no score", stops: false },
    levels.missing > 0 && {
      kind: "no level",
      words:
        levels.missing === levels.of
          ? "no level"
          : `no level for ${levels.missing} of ${sayCount(levels.of, "criterion", "criteria")}`,
      stops: false,
    },
    about.hidden && { kind: "names", words: "its name will show", stops: false },
  ];
  return gaps.filter((gap) => gap !== false);
}

/** Whether a piece is among those that go unless the teacher says otherwise: nothing but its name is said of it. */
export const isReady = (gaps: readonly Gap[]): boolean => gaps.every((gap) => gap.kind === "names");

export const isStopped = (gaps: readonly Gap[]): boolean => gaps.some((gap) => gap.stops);
