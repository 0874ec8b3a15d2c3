import type { Decision } from "../marks/edits";
import type { Mark } from "../marks/mark";
import type { Picks, Rubric } from "../rubrics/rubric";
import { itemOf, ON_TEXT, type Place } from "../marks/place";
import { sayScore } from "../scores/parseScore";
import { reattach } from "../marks/reattach";
import { canonicalJson } from "../text/canonical";
import type { AnsweredMark, MessageView, RequestState } from "../views/views";

/**
 * What was handed back, and what became of it. A hand-back is kept as it was at that moment; the
 * student's answers and the teacher's later rulings stand beside it and are joined here.
 */
export type HandedBackMark = Mark;

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
  marks: HandedBackMark[];
  /** What the teacher said, with this hand-back, about requests of earlier rounds. */
  rulings: { markId: string; ruling: "settled" | "again" }[];
  /** What teachers said that answers are worth, over what the key says. */
  judgements?: { partId: string; questionId: string; points: string }[];
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
  { handBacks, answers, messages, texts, items }: CameBack,
  text: string,
): AnsweredMark[] {
  const answerTo = new Map(answers.map((answer) => [answer.markId, answer]));
  const rulings = new Map(
    handBacks.flatMap((h) => h.content.rulings).map((r) => [r.markId, r.ruling]),
  );
  return handBacks.flatMap(({ round, content }) => {
    const original = content.versionId === null ? undefined : texts.get(content.versionId);
    const places = original === undefined ? [] : reattach(original, content.marks, text);
    return content.marks.map((mark, n): AnsweredMark => {
      // A request asked again after its words were gone never stood on words of its version: it has no place here either.
      const stood = mark.quote === "" || original?.slice(mark.start, mark.end) === mark.quote;
      const place = stood ? places[n] : undefined;
      const answer = answerTo.get(mark.id);
      const onText = (mark.place ?? ON_TEXT).on === "text";
      return {
        id: mark.id,
        kind: mark.kind,
        nature: mark.nature,
        body: mark.body,
        replacement: mark.replacement,
        quote: mark.quote,
        round,
        at: onText && place?.found ? { start: place.start, end: place.end } : null,
        place: mark.place ?? ON_TEXT,
        gone: onText ? !place?.found : !isHere(mark.place, items),
        strokes: mark.strokes ?? [],
        sentence: mark.sentence ?? "",
        criterionId: mark.criterionId ?? null,
        points: mark.points ?? null,
        clipId: mark.clipId ?? null,
        request: mark.nature === "request" ? requestState(rulings.get(mark.id), answer) : null,
        decision: answer?.decision ?? null,
        messages: messages.get(mark.id) ?? [],
      };
    });
  });
}

/** A place on a file is there as long as the file is. */
function isHere(place: Place | undefined, items: ReadonlySet<string> | undefined): boolean {
  const itemId = place ? itemOf(place) : null;
  return itemId === null || items === undefined || items.has(itemId);
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

export function countOpenRequests(marks: readonly AnsweredMark[]): number {
  return marks.filter((m) => m.request === "open").length;
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
    byId(content.marks, (m) => m.id).map((m) => [
      m.id,
      m.kind,
      m.nature,
      m.start,
      m.end,
      m.body,
      m.replacement,
      canonicalJson([
        m.place ?? ON_TEXT,
        m.strokes ?? [],
        m.sentence ?? "",
        m.criterionId ?? null,
        m.points ?? null,
        ...(m.clipId ? [m.clipId] : []),
      ]),
    ]),
    byId(content.judgements ?? [], (j) => j.partId + j.questionId).map((j) => [
      j.partId,
      j.questionId,
      Number(j.points),
    ]),
    byId(content.rulings, (r) => r.markId).map((r) => [r.markId, r.ruling]),
  ];
}

/** A mark as it goes into a hand-back. */
export function toHandedBack({
  id,
  kind,
  nature,
  start,
  end,
  quote,
  body,
  replacement,
  place,
  strokes,
  sentence,
  criterionId,
  points,
  clipId,
}: Mark): HandedBackMark {
  return {
    id,
    kind,
    nature,
    start,
    end,
    quote,
    body,
    replacement,
    place: place ?? ON_TEXT,
    strokes: strokes ?? [],
    sentence: sentence ?? "",
    criterionId: criterionId ?? null,
    points: points ?? null,
    ...(clipId ? { clipId } : {}),
  };
}
