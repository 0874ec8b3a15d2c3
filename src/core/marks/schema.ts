import { mixed, number, string, type ISchema } from "yup";
import { canonicalJson } from "../text/canonical";
import { uuid } from "../ids";
import { INKS, ON_TEXT, readPlace, readStrokes, type Ink, type Place, type Stroke } from "./place";
import { POINTS_FAULT, SIGNED_POINTS } from "./signedPoints";

/**
 * The marks a teacher puts on work. A *note* is a margin note, a pin or a time note, by where it stands;
 * *edits* are the proof-reader's four; *stamps* say what they say by their sign; *ink* is drawn.
 */
export const MARK_KINDS = [
  "note",
  "insert",
  "delete",
  "replace",
  "transpose",
  "tick",
  "cross",
  "question",
  "star",
  "stamp",
  "ink",
] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

export const NATURES = ["remark", "request", "praise"] as const;
export type Nature = (typeof NATURES)[number];

/** What is said of one field of a mark. */
type Rule<S extends ISchema<unknown>> = {
  /** What may come in for it, in a new mark and in a change of one. */
  body: S;
  /** Reads what the schema lets through as it is; a sentence says what is wrong with it. */
  read?: (input: unknown) => unknown;
  /** Its column where that has another name. */
  column?: string;
  /** Kept as JSON: always, or only where it says more than nothing. */
  json?: "always" | "unless nothing";
  /** Whether a mark with another value says something else. */
  counts: boolean | "off the text";
  /** Whether it can be changed once the mark is there. */
  changes: boolean;
  /** Whether it goes along when a request is asked again in the next round; else it is found anew there. */
  again: boolean;
  /** Its own key in a Web Annotation; null: the model itself has a word for it (see `formats/annotations`). */
  annotation: `almanac:${string}` | null;
};
/** The type of the field, for those who read the table by types alone. */
type Carries<T> = { readonly carries?: (value: T) => T };

const must =
  <T>() =>
  <S extends ISchema<unknown>>(rule: Rule<S>): Rule<S> & Carries<T> =>
    rule;
/** A field that need not be named: `nothing` is what a mark has then, also one from before there was the field. */
const may =
  <T>(nothing: T) =>
  <S extends ISchema<unknown>>(rule: Rule<S>): Rule<S> & Carries<T> & { nothing: T } => ({
    ...rule,
    nothing,
  });

// By themselves, so that they are typed by their words and not as any text.
const oneKind = string().oneOf(MARK_KINDS).required();
const oneNature = string().oneOf(NATURES).required();
const oneInk = string()
  .nullable()
  .oneOf([...INKS, null])
  .optional();

/**
 * A mark, described once: types, what may come in, columns, copies (stored, handed back, asked again, taken out
 * and brought in, on the device) and "is this a change?" are all read from here. A new field is a line here, a
 * migration for its column, and whatever shows it.
 */
export const MARK_FIELDS = {
  /** The maker's, so that asking twice makes one. */
  id: must<string>()({
    body: uuid.required(),
    counts: false,
    changes: false,
    again: false,
    annotation: null,
  }),
  kind: must<MarkKind>()({
    body: oneKind,
    counts: true,
    changes: false,
    again: false,
    annotation: "almanac:kind",
  }),
  nature: may<Nature>("remark")({
    body: oneNature,
    counts: true,
    changes: true,
    again: true,
    annotation: "almanac:nature",
  }),
  /** Offsets in UTF-16 code units of the version's text; 0 where it does not stand on the text. */
  start: may<number>(0)({
    body: number().integer().min(0).optional(),
    column: "startAt",
    counts: true,
    changes: true,
    again: false,
    annotation: null,
  }),
  end: may<number>(0)({
    body: number().integer().min(0).optional(),
    column: "endAt",
    counts: true,
    changes: true,
    again: false,
    annotation: null,
  }),
  /** The words it was made on, kept so that it can be shown when they are gone. On the text the range says it. */
  quote: may<string>("")({
    body: string().max(4000).optional(),
    counts: "off the text",
    changes: true,
    again: false,
    annotation: "almanac:quote",
  }),
  /** What the teacher says (light Markdown, see `noteText`); may be empty for edits, stamps and ink. The text of an own stamp. */
  body: may<string>("")({
    body: string().max(4000, "A note has 4,000 characters at most.").defined(),
    counts: true,
    changes: true,
    again: true,
    annotation: null,
  }),
  /** The words to put in, for `insert`, `replace` and `transpose`. */
  replacement: may<string>("")({
    body: string().max(2000, "The new words have 2,000 characters at most.").defined(),
    counts: true,
    changes: true,
    again: false,
    annotation: null,
  }),
  /** Where it stands. What comes in is read by `marks/place`, which says what is wrong with it. */
  place: may<Place>(ON_TEXT)({
    body: mixed<object>().nullable().optional(),
    read: readPlace,
    json: "unless nothing",
    counts: true,
    changes: true,
    again: false,
    annotation: null,
  }),
  /** What was drawn, for `ink` and on a film's still. */
  strokes: may<Stroke[]>([])({
    body: mixed<object[]>().nullable().optional(),
    read: readStrokes,
    json: "always",
    counts: true,
    changes: true,
    again: false,
    annotation: "almanac:ink",
  }),
  /** The student's own sentence, where the note corrects it: what stands in the note's quotation is held against it. */
  sentence: may<string>("")({
    body: string().max(2000, "The sentence has 2,000 characters at most.").optional(),
    counts: true,
    changes: true,
    again: true,
    annotation: "almanac:sentence",
  }),
  /** The rubric's criterion it speaks to. */
  criterionId: may<string | null>(null)({
    body: uuid.nullable().optional(),
    counts: true,
    changes: true,
    again: true,
    annotation: "almanac:criterion",
  }),
  /** Points given or taken: decimal text with its sign. */
  points: may<string | null>(null)({
    body: string().matches(SIGNED_POINTS, POINTS_FAULT).nullable().optional(),
    counts: true,
    changes: true,
    again: true,
    annotation: "almanac:points",
  }),
  /** The ink a note is in, where it is not that of its kind. */
  ink: may<Ink | null>(null)({
    body: oneInk,
    counts: true,
    changes: true,
    again: true,
    annotation: "almanac:note-ink",
  }),
  /** A voice clip that says it, beside or in place of the words. */
  clipId: may<string | null>(null)({
    body: uuid.nullable().optional(),
    counts: true,
    changes: true,
    again: true,
    annotation: null,
  }),
};

type Fields = typeof MARK_FIELDS;
export type MarkField = keyof Fields;
type TypeOf<F> = F extends Carries<infer T> ? T : never;
type MayBeLeftOut = {
  [F in MarkField]: Fields[F] extends { nothing: unknown } ? F : never;
}[MarkField];

export type Mark = { [F in MarkField]: TypeOf<Fields[F]> };
/** A mark as it is made, or as it was kept before some field was there. */
export type GivenMark = Omit<Mark, MayBeLeftOut> & Partial<Mark>;
/** What can be changed of a mark that is there. */
export type Changeable = Omit<Mark, "id" | "kind">;
export type MarkChange = Partial<Changeable>;

type AnyRule = Rule<ISchema<unknown>> & { nothing?: unknown };
/** The table as a list, for those who go through all of it. */
export const MARK_TABLE = Object.entries(MARK_FIELDS) as [MarkField, AnyRule][];

const namesOf = (picked: (rule: AnyRule) => boolean) =>
  MARK_TABLE.flatMap(([name, rule]) => (picked(rule) ? [name] : []));
const CHANGEABLE = namesOf((rule) => rule.changes);
const GO_ALONG = namesOf((rule) => rule.again);

function pick<F extends MarkField>(mark: Mark, names: readonly F[]): Pick<Mark, F> {
  return Object.fromEntries(names.map((name) => [name, mark[name]])) as Pick<Mark, F>;
}

/**
 * A mark with every field and nothing else: what was left out is nothing. Rows, hand-backs, what a device kept
 * and what came in all become marks here.
 */
export function wholeMark(given: GivenMark): Mark {
  return Object.fromEntries(
    MARK_TABLE.map(([name, { nothing }]) => [name, given[name] ?? nothing ?? null]),
  ) as Mark;
}

/** Everything of a mark that can be changed, as a change of it says it. */
export const changeableOf = (mark: Mark): Changeable =>
  pick(mark, CHANGEABLE as (keyof Changeable)[]);

/** What a request takes along when it is asked again. */
export const takenAlong = (mark: Mark): MarkChange => pick(mark, GO_ALONG as (keyof Changeable)[]);

/** All that a mark says, as one text: two marks that say the same have the same, whoever made them and when. */
export function allItSays(mark: Mark): string {
  const onText = mark.place.on === "text";
  return canonicalJson(
    MARK_TABLE.flatMap(([name, { counts }]) => {
      const asked = counts === "off the text" ? !onText : counts;
      return asked ? [mark[name]] : [];
    }),
  );
}

type Bodies = { [F in MarkField]: Fields[F]["body"] };

const bodiesOf = (names: readonly MarkField[]) =>
  Object.fromEntries(names.map((name) => [name, MARK_FIELDS[name].body]));

/** What may come in for a new mark, and for a change of one; the shapes of Yup objects. */
export const NEW_MARK_BODY = bodiesOf(namesOf(() => true)) as Bodies;
export const CHANGED_MARK_BODY = bodiesOf(CHANGEABLE) as Pick<Bodies, keyof MarkChange>;
