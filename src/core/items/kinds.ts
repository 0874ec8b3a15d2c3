import { holdsFiles, partRule, type FileType, type Part } from "../handouts/parts";

/** What a handed-in file is, by its content: how it is shown follows from it. */
export const ITEM_KINDS = [
  "photo",
  "picture",
  "document",
  "pdf",
  "text",
  "sound",
  "film",
  "other",
] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

const OFFICE = "application/vnd.openxmlformats-officedocument.";
const OPEN = "application/vnd.oasis.opendocument.";
/** Media types (as file-type names them) of office files, with the type a teacher chooses by. */
const DOCUMENTS: Record<string, FileType> = {
  [`${OFFICE}wordprocessingml.document`]: "document",
  [`${OFFICE}presentationml.presentation`]: "slides",
  [`${OFFICE}spreadsheetml.sheet`]: "table",
  [`${OPEN}text`]: "document",
  [`${OPEN}presentation`]: "slides",
  [`${OPEN}spreadsheet`]: "table",
  "application/rtf": "document",
  "text/rtf": "document",
};
const PICTURES = new Set([
  "image/jpeg",
  "image/png",
  "image/webp",
  "image/gif",
  "image/heic",
  "image/heif",
]);
const PROGRAMS =
  /^application\/(x-msdownload|x-elf|x-mach-binary|x-executable|vnd\.microsoft\.portable-executable|java-vm|wasm|x-ms-installer|vnd\.android\.package-archive)|x-msi$/;

export type Recognised = { kind: ItemKind; type: FileType | null };

/**
 * What a file is by the media type its content shows; `text` says that it is readable text.
 *
 * @returns a sentence for the student when such a file is never taken
 */
export function recognise(
  mediaType: string | null,
  text: string | null,
): Recognised | { refused: string } {
  if (mediaType && PROGRAMS.test(mediaType))
    return { refused: "This is a program, whatever its name says. Programs cannot be handed in." };
  if (mediaType === "image/svg+xml" || isSvg(text))
    return {
      refused:
        "This is an SVG drawing, which can carry a program in it. Save it as PNG or PDF and hand that in.",
    };
  if (mediaType === "application/pdf") return { kind: "pdf", type: "pdf" };
  const office = DOCUMENTS[mediaType ?? ""];
  if (office) return { kind: "document", type: office };
  const kind = ofMedia(mediaType ?? "");
  if (kind) return { kind, type: kind };
  return text === null ? { kind: "other", type: null } : { kind: "text", type: "text" };
}

const isSvg = (text: string | null) =>
  text !== null &&
  /<svg[\s>]/i.test(text.slice(0, 4000)) &&
  /^\s*(<\?xml|<!--|<!DOCTYPE|<svg)/i.test(text);

function ofMedia(mediaType: string): "picture" | "sound" | "film" | null {
  if (PICTURES.has(mediaType)) return "picture";
  if (mediaType.startsWith("audio/")) return "sound";
  return mediaType.startsWith("video/") ? "film" : null;
}

/** Whether a part takes this kind of file; otherwise why not, for the student. */
export function refusesFile(part: Part, { kind, type }: Recognised, name: string): string | null {
  const { takes } = partRule(part.kind);
  if (!holdsFiles(part.kind)) return "Files are not asked for here.";
  if (takes) return takes.kinds.includes(kind) ? null : takes.otherwise;
  const isCsv = type === "text" && /\.(csv|tsv)$/i.test(name) && part.types.includes("table");
  if (part.types.length === 0 || (type && part.types.includes(type)) || isCsv) return null;
  return "This kind of file was not asked for here.";
}

/** Room that is left, in bytes, and what a file would need; the office sets the limits. */
export type Limits = { file: number; piece: number; student: number; recordingMinutes: number };
export type Used = { piece: number; student: number };
const MB = 1_000_000;
export const megabytes = (bytes: number) => `${Math.round((bytes / MB) * 10) / 10} MB`;

/**
 * Why a file of this size cannot be sent, before any of it is.
 *
 * @example refusesSize({ file: 250e6, … }, { piece: 0, student: 0 }, 300e6) // "This file has 300 MB; …"
 */
export function refusesSize(limits: Limits, used: Used, size: number): string | null {
  if (size === 0)
    return "This file is empty (0 bytes). Look whether it was saved, and choose it again.";
  if (size > limits.file)
    return `This file has ${megabytes(size)}; ${megabytes(limits.file)} is the most for one file at your school.`;
  if (used.piece + size > limits.piece)
    return `This piece would have ${megabytes(used.piece + size)}; ${megabytes(limits.piece)} is the most for one piece. What is taken out of it counts for two days more.`;
  if (used.student + size > limits.student)
    return `All your files together would have ${megabytes(used.student + size)}; ${megabytes(limits.student)} is the most at your school. Ask the office.`;
  return null;
}

/**
 * A file's name as it is kept and shown: the last part of a path, without what hides an ending (bidirectional
 * controls), steers a terminal or means something to a file system; at most 120 characters, the ending kept.
 *
 * @example cleanFileName("../../gpj.\u202eexe.report.pdf") // "gpj.exe.report.pdf"
 */
export function cleanFileName(name: string): string {
  const last = name.normalize("NFC").split(/[/\\]/).at(-1) ?? "";
  const clean = last
    .replace(/[\p{Cc}\p{Cf}\p{Co}\p{Cn}\p{Cs}]/gu, "")
    .replace(/[<>:"|?*]/g, "")
    .replace(/\s+/g, " ")
    .trim()
    .replace(/^\.+/, "");
  const letters = [...clean];
  if (letters.length === 0) return "file";
  if (letters.length <= 120) return clean;
  const ending = /\.[\p{L}\p{N}]{1,8}$/u.exec(clean)?.[0] ?? "";
  return `${letters.slice(0, 120 - ending.length).join("")}${ending}`;
}

/** @example withEnding("IMG 1.heic", ".jpg") // "IMG 1.jpg" */
export const withEnding = (name: string, ending: string) =>
  `${name.replace(/\.[\p{L}\p{N}]{1,8}$/u, "")}${ending}`;

/** @example sayDuration(75.4) // "1:15" */
export function sayDuration(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
