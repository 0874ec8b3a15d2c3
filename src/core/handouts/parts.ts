/**
 * What is asked of the student: the parts of an assignment, in order. Each is of one kind and can have
 * words of its own ("a picture of the graph"), by which the student is told what is still missing.
 * An assignment without parts has nothing to hand in (paper, or in class).
 */
export const PART_KINDS = ["writing", "photos", "files", "sound", "film", "questions"] as const;
export type PartKind = (typeof PART_KINDS)[number];

/** What a part for files takes; none named: any file. */
export const FILE_TYPES = [
  "pdf",
  "document",
  "slides",
  "table",
  "text",
  "picture",
  "sound",
  "film",
] as const;
export type FileType = (typeof FILE_TYPES)[number];

/** When the student learns which answers are right. */
export const SHOW_TIMES = ["at once", "at hand-in", "handed back"] as const;
export type ShowTime = (typeof SHOW_TIMES)[number];

export type Part = {
  id: string;
  kind: PartKind;
  /** What it is, in the teacher's words; empty: the kind says it. */
  label: string;
  types: FileType[];
  /** The longest recording, in minutes; null: as the school has it. */
  minutes: number | null;
  /** The set of questions, for `questions`. */
  setId: string | null;
  show: ShowTime;
  /** How often an answer can be tried where it is shown at once; null: as often as one likes. */
  tries: number | null;
};

/** The id of the one part that work had before there were others. */
export const WRITING_PART_ID = "00000000-0000-7000-8000-000000000001";
export const aPart = (id: string, kind: PartKind, more: Partial<Part> = {}): Part => ({
  id,
  kind,
  label: "",
  types: [],
  minutes: null,
  setId: null,
  show: "handed back",
  tries: null,
  ...more,
});
export const WRITING: Part = aPart(WRITING_PART_ID, "writing");

const NAMES: Record<PartKind, string> = {
  writing: "writing",
  photos: "photos of paper",
  files: "a file",
  sound: "a recording",
  film: "a film",
  questions: "answers to questions",
};

/** @example sayPart(aPart(id, "photos", { label: "a picture of the graph" })) // "a picture of the graph" */
export const sayPart = (part: Pick<Part, "kind" | "label">): string =>
  part.label.trim() || NAMES[part.kind];

/** @example sayParts([writing, photos]) // "writing and photos of paper" */
export function sayParts(parts: readonly Part[]): string {
  const names = parts.map(sayPart);
  if (names.length === 0) return "nothing to hand in";
  return names.length === 1 ? names[0]! : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}

const TYPE_NAMES: Record<FileType, string> = {
  pdf: "PDF",
  document: "documents (DOCX, ODT, RTF)",
  slides: "slides (PPTX, ODP)",
  table: "tables (XLSX, ODS, CSV)",
  text: "plain text",
  picture: "pictures",
  sound: "sound",
  film: "film",
};
export const sayFileType = (type: FileType): string => TYPE_NAMES[type];
export const sayFileTypes = (types: readonly FileType[]): string =>
  types.length === 0 ? "any kind of file" : types.map(sayFileType).join(", ");

/** Faults of the parts by their place in the list; the same in the form and on the server. */
export function checkParts(parts: readonly Part[]): Record<number, string> {
  const faults: Record<number, string> = {};
  parts.forEach((part, n) => {
    if (part.kind === "questions" && !part.setId) faults[n] = "Choose a set of questions.";
    if (part.kind === "writing" && parts.findIndex((p) => p.kind === "writing") !== n)
      faults[n] = "There can be one text to write; ask for a file beside it.";
    if (
      part.kind === "questions" &&
      part.setId &&
      parts.findIndex((p) => p.setId === part.setId) !== n
    )
      faults[n] = "This set of questions is asked already.";
  });
  return faults;
}

/** What there is for each part, as far as "is something missing?" asks. */
export type Filled = {
  blank: boolean;
  items: ReadonlyMap<string, number>;
  answered: ReadonlyMap<string, { given: number; of: number }>;
};

/**
 * What was asked for and is not there yet, in words; nothing of it forbids handing in.
 *
 * @example missingParts([graph], nothing) // ["no picture of the graph yet"]
 */
export function missingParts(parts: readonly Part[], { blank, items, answered }: Filled): string[] {
  return parts.flatMap((part) => {
    if (part.kind === "writing")
      return blank
        ? [part.label ? `no ${withoutArticle(part.label)} yet` : "nothing is written yet"]
        : [];
    if (part.kind === "questions") {
      const { given, of } = answered.get(part.id) ?? { given: 0, of: 0 };
      return given < of
        ? [`${of - given} of ${of} questions ${of - given === 1 ? "has" : "have"} no answer yet`]
        : [];
    }
    return (items.get(part.id) ?? 0) === 0 ? [`no ${withoutArticle(sayPart(part))} yet`] : [];
  });
}

const withoutArticle = (words: string) => words.replace(/^(an?|the|your|one|some)\s+/i, "");
