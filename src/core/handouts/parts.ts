import { sayCount } from "../text/sayCount";
import type { ItemKind } from "../items/kinds";

/**
 * What is asked of the student: the parts of an assignment, in order. Each is of one kind and can have
 * words of its own ("a picture of the graph"), by which the student is told what is still missing.
 * An assignment without parts has nothing to hand in (paper, or in class).
 */
type PartRule = {
  /** As a teacher chooses it, with a word on what happens. */
  name: string;
  hint: string;
  /** As a student is asked for it, where the teacher has no words for it. */
  asked: string;
  /** An example for the teacher's own words. */
  example?: string;
  /** What there is of it in a piece: one text, files, or answers. */
  holds: "writing" | "files" | "answers";
  /** Work can ask for it once only; else as often as one likes. */
  once?: string;
  /** What a teacher can set for it. */
  sets: "kinds of file" | "minutes" | "questions" | null;
  /** The kinds of file it takes, with what is said of any other; those of `files` are chosen by the teacher. */
  takes?: { kinds: readonly ItemKind[]; otherwise: string };
};

/** The kinds of parts, each described once: what asks, shows, checks and looks for them reads it here. */
export const PART_RULES = {
  writing: {
    name: "Writing",
    hint: "written here",
    asked: "writing",
    holds: "writing",
    once: "There can be one text to write; ask for a file beside it.",
    sets: null,
    takes: {
      kinds: ["sound", "film", "pdf"],
      otherwise:
        "In the writing itself there can be sounds, films and PDF. Pictures are put in with Picture.",
    },
  },
  photos: {
    name: "Photos of paper",
    hint: "photos become pages, in order",
    asked: "photos of paper",
    example: "a picture of the graph",
    holds: "files",
    sets: null,
    takes: {
      kinds: ["photo", "picture"],
      otherwise: "Photos of paper are pictures (JPEG, PNG, WebP or HEIC). This is something else.",
    },
  },
  files: {
    name: "Files",
    hint: "documents, PDF, pictures …",
    asked: "a file",
    holds: "files",
    sets: "kinds of file",
  },
  sound: {
    name: "Sound",
    hint: "recorded here or a file",
    asked: "a recording",
    holds: "files",
    sets: "minutes",
    takes: { kinds: ["sound", "film"], otherwise: "This is not a sound recording." },
  },
  film: {
    name: "Film",
    hint: "recorded here or a file",
    asked: "a film",
    holds: "files",
    sets: "minutes",
    takes: { kinds: ["film"], otherwise: "This is not a film." },
  },
  questions: {
    name: "Questions",
    hint: "a set with its key, from the Shelf",
    asked: "answers to questions",
    holds: "answers",
    sets: "questions",
  },
} as const satisfies Record<string, PartRule>;
export type PartKind = keyof typeof PART_RULES;
/** Whether files can be sent for it: to be handed in, or to stand in the writing. */
export const holdsFiles = (kind: PartKind): boolean => PART_RULES[kind].holds !== "answers";
export const PART_KINDS = Object.keys(PART_RULES) as PartKind[];
export const partRule = (kind: PartKind): PartRule => PART_RULES[kind];

/** The parts a teacher may still ask for beside these. */
export const stillToAsk = (parts: readonly Part[]): PartKind[] =>
  PART_KINDS.filter((kind) => !partRule(kind).once || !parts.some((p) => p.kind === kind));

/** Whether something is to be written here. */
export const asksForWriting = (parts: readonly Pick<Part, "kind">[]): boolean =>
  parts.some((p) => partRule(p.kind).holds === "writing");

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
  /** Whether students see the key itself, beside their answers, once the work is handed back for good. */
  showKey?: boolean;
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

/** @example sayPart(aPart(id, "photos", { label: "a picture of the graph" })) // "a picture of the graph" */
export const sayPart = (part: Pick<Part, "kind" | "label">): string =>
  part.label.trim() || PART_RULES[part.kind].asked;

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
  return Object.fromEntries(
    parts.flatMap((part, n) => {
      const fault = faultOfPart(part, parts.slice(0, n));
      return fault ? [[n, fault]] : [];
    }),
  );
}

function faultOfPart(part: Part, before: readonly Part[]): string | null {
  const { once, sets } = partRule(part.kind);
  if (once && before.some((p) => p.kind === part.kind)) return once;
  if (sets !== "questions") return null;
  if (!part.setId) return "Choose a set of questions.";
  const asked = before.some((p) => p.setId === part.setId);
  return asked ? "This set of questions is asked already." : null;
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
    const noneYet = `no ${withoutArticle(sayPart(part))} yet`;
    switch (partRule(part.kind).holds) {
      case "writing":
        return blank ? [part.label ? noneYet : "nothing is written yet"] : [];
      case "answers": {
        const { given, of } = answered.get(part.id) ?? { given: 0, of: 0 };
        const left = of - given;
        return left > 0
          ? [`${left} of ${sayCount(of, "question")} ${left === 1 ? "has" : "have"} no answer yet`]
          : [];
      }
      case "files":
        return (items.get(part.id) ?? 0) === 0 ? [noneYet] : [];
    }
  });
}

const withoutArticle = (words: string) => words.replace(/^(an?|the|your|one|some)\s+/i, "");
