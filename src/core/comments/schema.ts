import { array, number, string, type ISchema } from "yup";
import { uuid } from "../ids";
import { MARK_KINDS, NATURES, type MarkKind, type Nature } from "../marks/schema";
import { POINTS_FAULT, SIGNED_POINTS } from "../marks/signedPoints";
import { cleanFolder, cleanTags } from "./folders";

/** Marks that a comment can be: notes, and what is put on words with one press. Ink is drawn by hand. */
export const COMMENT_KINDS = MARK_KINDS.filter((kind) => kind !== "ink" && kind !== "transpose");

export const SHARES = ["own", "course", "school"] as const;
export type Share = (typeof SHARES)[number];

/** What is said of one field of a comment. */
type Rule<T, S extends ISchema<unknown>> = {
  /** What a comment has where nothing was said of it. */
  nothing: T;
  /** What may come in for it. */
  body: S;
  /** What is made of what came in before it is kept; also of what a file holds. */
  clean?: (given: never) => T;
  /** The name of its column in a file; null: it stays in Almanac (a key, with whom it is shared, a voice). */
  fileColumn: string | null;
  /** Other names of that column. */
  alsoCalled?: readonly string[];
};
const field =
  <T>() =>
  <S extends ISchema<unknown>>(rule: Rule<T, S>): Rule<T, S> =>
    rule;

// By themselves, so that they are typed by their words and not as any text.
const oneNature = string().oneOf(NATURES).required();
const oneShare = string().oneOf(SHARES).optional();
const oneKind = string().oneOf(COMMENT_KINDS).optional();
const orNull = (text: string | null | undefined) => text?.trim() || null;
const trimmed = (text: string) => text.trim();

/**
 * A comment of the bank, described once: what may come in, what is stored and read, what leaves in a file and
 * comes back, and what is kept when it is changed are all read from here.
 */
export const COMMENT_FIELDS = {
  text: field<string>()({
    nothing: "",
    body: string()
      .trim()
      .required("Write the comment.")
      .max(4000, "A comment has 4,000 characters at most."),
    fileColumn: "text",
    alsoCalled: ["comment"],
  }),
  shorthand: field<string | null>()({
    nothing: null,
    body: string().trim().max(24, "A shorthand has 24 characters at most.").defined(),
    clean: orNull,
    fileColumn: "shorthand",
    alsoCalled: ["key"],
  }),
  nature: field<Nature>()({
    nothing: "remark",
    body: oneNature,
    fileColumn: "kind of comment",
    alsoCalled: ["nature"],
  }),
  /** The owner's key, 1 to 9. */
  favourite: field<number | null>()({
    nothing: null,
    body: number().integer().min(1).max(9).nullable().defined(),
    fileColumn: null,
  }),
  folder: field<string>()({
    nothing: "",
    body: string().max(120, "A folder's path has 120 characters at most.").optional(),
    clean: cleanFolder,
    fileColumn: "folder",
  }),
  tags: field<string[]>()({
    nothing: [],
    body: array()
      .of(string().required().max(30, "A tag has 30 characters at most."))
      .max(12, "A comment has 12 tags at most.")
      .optional(),
    clean: cleanTags,
    fileColumn: "tags",
    alsoCalled: ["tag"],
  }),
  share: field<Share>()({ nothing: "own", body: oneShare, fileColumn: null }),
  /** Of the course it is shared with. */
  courseId: field<string | null>()({
    nothing: null,
    body: uuid.nullable().optional(),
    fileColumn: null,
  }),
  kind: field<MarkKind>()({
    nothing: "note",
    body: oneKind,
    fileColumn: "mark",
    alsoCalled: ["kind"],
  }),
  /** The words that an edit puts in. */
  replacement: field<string>()({
    nothing: "",
    body: string().max(2000).optional(),
    fileColumn: "new words",
    alsoCalled: ["replacement"],
  }),
  /** The name of the rubric's criterion it speaks to. */
  criterion: field<string>()({
    nothing: "",
    body: string().max(300).optional(),
    clean: trimmed,
    fileColumn: "criterion",
  }),
  points: field<string | null>()({
    nothing: null,
    body: string()
      .matches(SIGNED_POINTS, { message: POINTS_FAULT, excludeEmptyString: true })
      .nullable()
      .optional(),
    clean: orNull,
    fileColumn: "points",
  }),
  clipId: field<string | null>()({
    nothing: null,
    body: uuid.nullable().optional(),
    fileColumn: null,
  }),
};

type Fields = typeof COMMENT_FIELDS;
export type CommentField = keyof Fields;
/** What a comment of the bank says and is. */
export type BankComment = { [F in CommentField]: Fields[F]["nothing"] };
export type GivenComment = Partial<BankComment> & { text: string };

type AnyRule = Rule<unknown, ISchema<unknown>>;
/** The table as a list, for those who go through all of it. */
export const COMMENT_TABLE = Object.entries(COMMENT_FIELDS) as [CommentField, AnyRule][];

/** A comment with every field and nothing else; what was left out is nothing, what was given is cleaned. */
export function wholeComment(given: { [F in CommentField]?: BankComment[F] | null }): BankComment {
  return Object.fromEntries(
    COMMENT_TABLE.map(([name, { nothing, clean }]) => {
      const value = given[name] ?? nothing;
      return [name, clean && value !== null ? clean(value as never) : value];
    }),
  ) as BankComment;
}

/** A comment as the API takes it, for whoever adds one or changes some of its fields and keeps the others. */
export function commentBodyOf(comment: BankComment) {
  const { shorthand, kind, ...others } = wholeComment(comment);
  return { ...others, shorthand: shorthand ?? "", kind: kind as (typeof COMMENT_KINDS)[number] };
}

/** What may come in for a comment: the shape of a Yup object. */
export const COMMENT_BODY = Object.fromEntries(
  COMMENT_TABLE.map(([name, { body }]) => [name, body]),
) as { [F in CommentField]: Fields[F]["body"] };

/** A comment without the fields that say nothing: most of two hundred comments that go out with a page. */
export type LeanComment<C extends BankComment = BankComment> = Omit<C, CommentField> &
  Partial<Pick<C, CommentField>>;

export function leanComment<C extends BankComment>(comment: C): LeanComment<C> {
  const lean: Record<string, unknown> = { ...comment };
  for (const [name, { nothing }] of COMMENT_TABLE)
    if (JSON.stringify(comment[name]) === JSON.stringify(nothing)) delete lean[name];
  return lean as LeanComment<C>;
}

/** The comment that `leanComment` was given. */
export const fullComment = <C extends BankComment>(lean: LeanComment<C>): C =>
  ({ ...lean, ...wholeComment(lean) }) as C;
