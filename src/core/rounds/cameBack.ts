import type { SaidOfRound } from "./asked";
import type { Decision } from "../marks/edits";
import { allItSays, wholeMark, type GivenMark, type Mark } from "../marks/schema";
import type { PieceState } from "../pieces/life";
import type { Picks, Rubric } from "../rubrics/rubric";
import { around } from "../marks/likelyPlace";
import { itemOf } from "../marks/place";
import { sayScore } from "../scores/parseScore";
import type { Range } from "../text/selectors";
import { reattach, type Reattached } from "../marks/reattach";
import type { AnsweredMark, MessageView, RequestState } from "../views/views";

/** A file of a teacher's that goes back with feedback; its size in bytes. */
export type ReturnedFile = { id: string; name: string; size: number };

/**
 * What was handed back, and what became of it. A hand-back is kept as it was at that moment; the
 * student's answers and the teacher's later rulings stand beside it and are joined here.
 */
export type HandBackContent = {
  overall: string;
  scoreTyped: string;
  /** The points that count, after what lateness took off. */
  points: string | null;
  possible: string | null;
  /** Before that, how the scale shows what counts, and the sum in words; absent where nothing was scored. */
  raw?: string;
  shown?: string;
  deduction?: string;
  /** Levels chosen in the rubric, and the rubric as it was. */
  picks?: Picks;
  rubric?: { id: string; name: string; content: Rubric };
  /** The version the marks stand on; null when nothing was handed in. */
  versionId: string | null;
  marks: GivenMark[];
  /** What the teacher said, with this hand-back, about requests of earlier rounds. */
  rulings: { markId: string; ruling: "settled" | "again" }[];
  /** What teachers said that answers are worth, over what the key says. */
  judgements?: { partId: string; questionId: string; points: string }[];
  /** Files that went back with it, by their uploads. */
  files?: ReturnedFile[];
  /** What was said of the round that it opens. */
  asked?: SaidOfRound;
  /** The score was held back, and comes later (`handingBack/withhold`). */
  withheld?: boolean;
  /** The score of a round to revise is known to teachers only (`handingBack/withhold`). */
  untold?: boolean;
};

/** The score of a hand-back as its scale shows it; null where nothing was scored. */
export function shownScore({ points, possible, shown }: HandBackContent): string | null {
  return points === null || possible === null ? null : (shown ?? sayScore(points, possible));
}

export type HandBackFact = { round: number; outcome: "final" | "revise"; content: HandBackContent };
export type AnswerFact = {
  markId: string;
  request: "open" | "done" | null;
  decision: Decision | null;
};

export type CameBack = {
  /** Hand-backs in force, one per round, the earliest first. */
  handBacks: readonly HandBackFact[];
  answers: readonly AnswerFact[];
  messages: ReadonlyMap<string, MessageView[]>;
  /** Texts of the versions that marks stand on. */
  texts: ReadonlyMap<string, string>;
  /** Files that are in the work now looked at; left out where places on files do not matter. */
  items?: ReadonlySet<string>;
};

/**
 * All marks handed back so far with the state of each, placed on `text`, the text now looked at.
 *
 * A request is open until the student says it is done; it is settled, or asked again, when a teacher
 * says so *and hands that back*. A mark whose words are no longer in `text` has no place, and is
 * listed all the same.
 */
export function answeredMarks(
  cameBack: CameBack,
  text: string,
  places: Places = placesHere(cameBack, text),
): AnsweredMark[] {
  const { handBacks, answers, messages, texts, items } = cameBack;
  const answerTo = new Map(answers.map((answer) => [answer.markId, answer]));
  const rulings = new Map(
    handBacks.flatMap((h) => h.content.rulings).map((r) => [r.markId, r.ruling]),
  );
  return handBacks.flatMap(({ round, content }) => {
    const original = content.versionId === null ? undefined : texts.get(content.versionId);
    const marks = content.marks.map(wholeMark);
    const found = places.get(round) ?? [];
    return marks.map((mark, n): AnsweredMark => {
      const { start, end, ...said } = mark;
      // A request asked again after its words were gone never stood on words of its version: it has no place here either.
      const stood = mark.quote === "" || original?.slice(start, end) === mark.quote;
      const answer = answerTo.get(mark.id);
      return {
        ...said,
        round,
        ...whereNow(mark, stood ? found[n] : undefined, items),
        ...lostFrom(original, mark, stood ? found[n] : undefined),
        request: mark.nature === "request" ? requestState(rulings.get(mark.id), answer) : null,
        decision: answer?.decision ?? null,
        messages: messages.get(mark.id) ?? [],
      };
    });
  });
}

/** Where the marks of each round's hand-back stand in the text now looked at, mark by mark. */
export type Places = ReadonlyMap<number, readonly Reattached[]>;

/** What has to be followed from one text to another: the marks of each round whose text is known. */
export function marksToFollow({
  handBacks,
  texts,
}: Pick<CameBack, "handBacks" | "texts">): { round: number; before: string; marks: Range[] }[] {
  return handBacks.flatMap(({ round, content }) => {
    const before = content.versionId === null ? undefined : texts.get(content.versionId);
    return before === undefined ? [] : [{ round, before, marks: content.marks.map(wholeMark) }];
  });
}

/** The places as they are found here and now; for long texts that is work for a thread of its own. */
function placesHere(cameBack: CameBack, text: string): Places {
  return new Map(
    marksToFollow(cameBack).map(({ round, before, marks }) => [
      round,
      reattach(before, marks, text),
    ]),
  );
}

/** On the text a mark stands where its words are now; on a file it is there as long as the file is. */
export function whereNow(
  { place }: Pick<Mark, "place">,
  found: Reattached | undefined,
  items: ReadonlySet<string> | undefined,
): Pick<AnsweredMark, "at" | "gone"> {
  if (place.on === "text")
    return found?.found
      ? { at: { start: found.start, end: found.end }, gone: false }
      : { at: null, gone: true };
  const itemId = itemOf(place);
  return { at: null, gone: itemId !== null && items !== undefined && !items.has(itemId) };
}

/** Of a mark on words that are gone: what stood around them, and where it could be put now. */
function lostFrom(
  original: string | undefined,
  { place, start, end }: Mark,
  found: Reattached | undefined,
): Pick<AnsweredMark, "lost"> {
  if (place.on !== "text" || !original || !found || found.found || start === end) return {};
  return { lost: { ...around(original, { start, end }), likely: found.likely ?? null } };
}

function requestState(
  ruling: "settled" | "again" | undefined,
  answer: AnswerFact | undefined,
): RequestState {
  if (ruling === "settled") return "settled";
  if (ruling === "again") return "asked again";
  return answer?.request ?? "open";
}

/**
 * The marks that still concern the student: those of the last hand-back, and requests of earlier ones
 * that nobody has settled or asked again.
 */
export function currentMarks(marks: readonly AnsweredMark[]): AnsweredMark[] {
  const last = Math.max(0, ...marks.map((m) => m.round));
  return marks.filter((m) => m.round === last || m.request === "open" || m.request === "done");
}

/** How many requests wait for the student; work that is handed back for good asks for nothing more. */
export function openRequests(
  state: PieceState,
  marks: readonly { request: RequestState | null }[],
): number {
  return state === "handed_back" ? 0 : marks.filter((m) => m.request === "open").length;
}

/** Of a hand-back only what it asks for: enough to count by. */
export type AskedFact = Pick<HandBackContent, "rulings"> & { /** Ids. */ requests: string[] };

/** The same for lists, which need no mark's place or words: how many wait, and how many are settled. */
export function countRequests(
  state: PieceState,
  handBacks: readonly AskedFact[],
  answers: readonly AnswerFact[],
): { open: number; settled: number } {
  const answerTo = new Map(answers.map((answer) => [answer.markId, answer]));
  const rulings = new Map(handBacks.flatMap((h) => h.rulings).map((r) => [r.markId, r.ruling]));
  const requests = handBacks.flatMap((h) => h.requests);
  const states = requests.map((id) => ({
    request: requestState(rulings.get(id), answerTo.get(id)),
  }));
  return {
    open: openRequests(state, states),
    settled: states.filter(({ request }) => request === "settled").length,
  };
}

/**
 * Requests of earlier rounds of which the teacher has said nothing yet: neither settled nor asked again, with a
 * hand-back or in the draft.
 *
 * @param ruled ids of marks that the draft rules on
 */
export function unruledRequests(
  before: readonly AskedFact[],
  answers: readonly AnswerFact[],
  ruled: readonly string[],
): number {
  const answerTo = new Map(answers.map((answer) => [answer.markId, answer]));
  const rulings = new Map(before.flatMap((h) => h.rulings).map((r) => [r.markId, r.ruling]));
  return before
    .flatMap((h) => h.requests)
    .filter((id) => {
      const state = requestState(rulings.get(id), answerTo.get(id));
      return (state === "open" || state === "done") && !ruled.includes(id);
    }).length;
}

/** Whether a draft says anything else than what was last handed back for its round. */
export function differsFrom(content: HandBackContent, draft: HandBackContent): boolean {
  return JSON.stringify(comparable(content)) !== JSON.stringify(comparable(draft));
}

function comparable(content: HandBackContent): unknown {
  const byId = <T>(list: readonly T[], id: (item: T) => string) =>
    [...list].sort((a, b) => id(a).localeCompare(id(b)));
  return [
    content.overall,
    content.raw ?? content.points,
    Object.entries(content.picks ?? {}).sort(),
    byId(content.marks, (m) => m.id).map((m) => [m.id, allItSays(wholeMark(m))]),
    byId(content.judgements ?? [], (j) => j.partId + j.questionId).map((j) => [
      j.partId,
      j.questionId,
      Number(j.points),
    ]),
    (content.files ?? []).map((file) => file.id).sort(),
    byId(content.rulings, (r) => r.markId).map((r) => [r.markId, r.ruling]),
  ];
}
