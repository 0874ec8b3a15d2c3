import { WRITING, type Part } from "./parts";
import { ONLY_FLAG, type LatePolicy } from "../scores/latePolicy";
import type { ScoreKind } from "../scores/scales";
import type { FinalScore } from "../rounds/roundsRule";
import { EMPTY_DOC, type RichDoc } from "../text/richDoc";
import type { WallDates } from "./moveDates";

/**
 * The page "Hand out" as data: the work, who and when (a row per section), and how it counts. A draft is
 * just this, however incomplete; handing out turns it into an assignment and its hand-outs.
 *
 * Numbers are decimal text, as they are typed; times are the school's wall clock.
 */
export type Plan = { work: Work; rows: PlanRow[]; counting: Counting };

export type Work = {
  title: string;
  /** Give it the next number of its course. */
  numbered: boolean;
  emoji: string;
  instructions: RichDoc;
  /** What is to be handed in; none: nothing (paper, or in class). */
  parts: Part[];
  materials: PlanMaterial[];
  /** Another wording for some students. */
  versions: PlanVersion[];
  selfAssessment: SelfAssessment | null;
  mayTakeBack: boolean;
  /** The teacher may read the work before it is handed in; students are told. */
  openBefore: boolean;
  wordsLeast: string;
  wordsMost: string;
  /** The instructions as the teacher speaks them, a voice clip. */
  clipId?: string | null;
};

export type PlanMaterial = { id: string; use: "look" | "copy"; title: string } & (
  | { kind: "link"; href: string }
  | { kind: "file"; uploadId: string }
  | { kind: "text"; doc: RichDoc }
);
export type PlanVersion = { id: string; name: string; instructions: RichDoc };

/** Asked of the student at hand-in; `words` offers its own answers, a scale goes from 1 to 5. */
export type SelfAssessment = { question: string; answers: "words" | "scale"; choices: string[] };
/** What a scale offers, from badly to very well. */
export const SCALE = ["1", "2", "3", "4", "5"] as const;
export const HOW_DID_IT_GO: SelfAssessment = {
  question: "How did it go?",
  answers: "words",
  choices: ["easily", "with some effort", "it was hard", "I got stuck"],
};

export type PlanRow = WallDates & {
  sectionId: string;
  audience: Audience;
  exceptions: Exception[];
};
export type Audience =
  { kind: "section" } | { kind: "chosen"; groups: string[]; students: string[] };
/** What is other for one student: a due time, excused, a version. */
export type Exception = {
  studentId: string;
  due: string | null;
  excused: boolean;
  versionId: string | null;
};

export type Counting = {
  kind: ScoreKind;
  points: string;
  category: string;
  counts: boolean;
  extraCredit: boolean;
  graceMinutes: number;
  late: LatePolicy | null;
  roundsMost: string;
  roundsUntil: string | null;
  final: FinalScore;
  winBackPercent: string;
  rubricId: string | null;
  archiveDays: string;
};

export function emptyPlan(rows: PlanRow[] = []): Plan {
  return {
    work: {
      title: "",
      numbered: false,
      emoji: "",
      instructions: EMPTY_DOC,
      parts: [WRITING],
      materials: [],
      versions: [],
      selfAssessment: null,
      mayTakeBack: true,
      openBefore: false,
      wordsLeast: "",
      wordsMost: "",
      clipId: null,
    },
    rows,
    counting: {
      kind: "points",
      points: "10",
      category: "",
      counts: true,
      extraCredit: false,
      graceMinutes: 10,
      late: null,
      roundsMost: "",
      roundsUntil: null,
      final: "latest",
      winBackPercent: "50",
      rubricId: null,
      archiveDays: "30",
    },
  };
}

/** Whether anything is handed in here at all. */
export const expectsOf = (parts: readonly Part[]): "work" | "nothing" =>
  parts.length > 0 ? "work" : "nothing";

/** The policy that holds: the hand-out's own, or the section's. */
export const latePolicyOf = (own: LatePolicy | null, section: LatePolicy | null): LatePolicy =>
  own ?? section ?? ONLY_FLAG;

/** The title as it stands everywhere: "☁ 3 · Clouds, three times". */
export function sayTitle({
  title,
  number,
  emoji,
}: {
  title: string;
  number: number | null;
  emoji: string | null;
}): string {
  // Without the sign that asks for a coloured picture: no font here has one, and a browser would fetch every font to look.
  return `${emoji ? `${emoji.replaceAll("\ufe0f", "")} ` : ""}${number === null ? "" : `${number} · `}${title}`;
}
