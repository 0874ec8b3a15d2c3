import type { ISchema, Schema } from "yup";
import {
  around,
  clampArea,
  inkArea,
  INKS,
  type Area,
  type Ink,
  type PageWords,
  type Place,
  type Stroke,
} from "../marks/place";
import { MARK_TABLE, wholeMark, type Mark, type MarkKind } from "../marks/schema";
import { fromSelectors } from "../text/selectors";
import { CLIP, type Sources } from "./annotations";

/** What an annotation says as a mark (without an id of ours), or the sentence that says why it cannot be one. */
export type ReadMark = Omit<Mark, "id"> | string;

/** Reads annotations from a collection, a page, a list, or one alone. @returns null when it is none of these */
export function readAnnotations(input: unknown): Record<string, unknown>[] | null {
  const found = (value: unknown): Record<string, unknown>[] | null => {
    if (Array.isArray(value)) return value.flatMap((entry) => found(entry) ?? []);
    if (typeof value !== "object" || value === null) return null;
    const { type, items, first } = value as Record<string, unknown>;
    const is = (name: string) => type === name || (Array.isArray(type) && type.includes(name));
    if (is("Annotation")) return [value as Record<string, unknown>];
    if (is("AnnotationPage")) return found(items) ?? [];
    if (is("AnnotationCollection")) return found(first) ?? [];
    return null;
  };
  return found(input);
}

export function toMark(annotation: Record<string, unknown>, sources: Sources): ReadMark {
  const placed = placeOf(annotation, sources);
  if (typeof placed === "string") return placed;
  const { quote, strokes: drawn = [], ...where } = placed;
  const bodies = listOf(annotation.body ?? annotation.bodyValue);
  const body = saidIn(bodies, (purpose) => purpose !== "editing");
  const replacement = saidIn(bodies, (purpose) => purpose === "editing");
  const clipId = voiceIn(bodies);
  const own = ownFields(annotation);
  const strokes = own.strokes ?? drawn;
  const kind = own.kind ?? kindOf({ ...where, strokes, replacement });
  const nature = annotation.motivation === "questioning" ? "request" : "remark";
  const { id: _id, ...read } = wholeMark({
    nature,
    ...own,
    ...where,
    id: "",
    kind,
    body: kind === "note" && body === "" && !clipId ? "(no words)" : body,
    replacement,
    strokes,
    clipId,
    quote: quote || own.quote,
  });
  return read;
}

/** Where it stands, or the sentence that says why it stands nowhere here. */
function placeOf(annotation: Record<string, unknown>, sources: Sources): Placed | string {
  const [target] = listOf(annotation.target);
  if (target === undefined) return "It has no target.";
  const iri = iriOf(target);
  const [bare, hash] = [iri.replace(/#.*$/, ""), /#(.*)$/.exec(iri)?.[1]];
  const item = sources.items.find((i) => i.iri === bare || i.iri === iri);
  const selectors = (typeof target === "object" ? listOf(target.selector) : []).filter(
    (s): s is Loose => typeof s === "object" && s !== null,
  );
  if (item) {
    const inAddress = hash ? [{ type: "FragmentSelector", value: hash }] : [];
    return placeOn(item, [...selectors, ...inAddress]);
  }
  if (bare === sources.textIri || iri === sources.textIri)
    return placeInText(selectors, sources.text);
  return "It is about something that is not in this piece.";
}

function iriOf(target: Loose | string): string {
  if (typeof target === "string") return target;
  const source = target?.source as { id?: unknown } | string | undefined;
  const named = typeof source === "object" && source !== null ? source.id : source;
  return String(named ?? target?.id ?? "");
}

/** What the bodies of a purpose say in words; one without a purpose is no edit. */
function saidIn(
  bodies: readonly (Loose | string)[],
  isMeant: (purpose: unknown) => boolean,
): string {
  const said = bodies.flatMap((b) => {
    if (typeof b === "string") return isMeant(undefined) ? [b] : [];
    return typeof b?.value === "string" && isMeant(b.purpose) ? [b.value] : [];
  });
  return said.join("\n\n");
}

function voiceIn(bodies: readonly (Loose | string)[]): string | null {
  for (const b of bodies)
    if (typeof b === "object" && b?.type === "Sound" && String(b.id ?? "").startsWith(CLIP))
      return String(b.id).slice(CLIP.length);
  return null;
}

/** What stands under our own keys; what is not what it should be counts as not said. */
function ownFields(annotation: Record<string, unknown>): Partial<Mark> {
  return Object.fromEntries(
    MARK_TABLE.flatMap(([name, { annotation: key, body, read }]) => {
      const value = key === null ? undefined : annotation[key];
      if (value === undefined || value === null || !isValid(body, value)) return [];
      const known = read ? read(value) : value;
      return read && typeof known === "string" ? [] : [[name, known]];
    }),
  );
}

const isValid = (schema: ISchema<unknown>, value: unknown) =>
  (schema as Schema).isValidSync(value, { strict: true });

/** What an annotation is that does not say it in our words. */
function kindOf(read: Pick<Mark, "place" | "start" | "end" | "strokes" | "replacement">): MarkKind {
  if (read.strokes.length > 0) return "ink";
  if (read.replacement === "" || read.place.on !== "text") return "note";
  return read.start === read.end ? "insert" : "replace";
}

type Loose = {
  type?: unknown;
  value?: unknown;
  start?: unknown;
  end?: unknown;
  exact?: unknown;
  prefix?: unknown;
  suffix?: unknown;
  source?: unknown;
  selector?: unknown;
  id?: unknown;
  purpose?: unknown;
  refinedBy?: unknown;
};

function listOf(value: unknown): (Loose | string)[] {
  if (value === undefined || value === null) return [];
  return (Array.isArray(value) ? value : [value]) as (Loose | string)[];
}
type Placed = { place: Place; start: number; end: number; quote: string; strokes?: Stroke[] };

function placeInText(selectors: readonly Loose[], text: string): Placed | string {
  const position = selectors.find((s) => s.type === "TextPositionSelector");
  const quote = selectors.find((s) => s.type === "TextQuoteSelector");
  if (!position && !quote)
    return selectors.length === 0
      ? { place: { on: "whole", itemId: null }, start: 0, end: 0, quote: "" }
      : "Its place in the text cannot be read.";
  const range = fromSelectors(
    text,
    position
      ? { type: "TextPositionSelector", start: Number(position.start), end: Number(position.end) }
      : null,
    quote
      ? {
          type: "TextQuoteSelector",
          exact: String(quote.exact ?? ""),
          prefix: String(quote.prefix ?? ""),
          suffix: String(quote.suffix ?? ""),
        }
      : null,
  );
  return range
    ? { place: { on: "text" }, ...range, quote: text.slice(range.start, range.end) }
    : "Its words are not in this text.";
}

function placeOn(item: Sources["items"][number], given: readonly Loose[]): Placed | string {
  const all = given.flatMap((s): Loose[] => [
    s,
    ...listOf(s.refinedBy).filter((r): r is Loose => typeof r === "object"),
  ]);
  const values = all
    .flatMap((s) => (s.type === "FragmentSelector" ? [String(s.value ?? "")] : []))
    .join("&");
  const drawn = drawnIn(all);
  const boxes = boxesIn(values, item);
  const area = around(boxes) ?? (drawn.strokes ? inkArea(drawn.strokes) : null);
  const found = { start: 0, end: 0, quote: "", ...drawn };
  const itemId = item.id;
  const page = pageIn(values, item);
  const moment = momentIn(values);
  if (moment && page?.named !== true)
    return { place: { on: "time", itemId, ...moment, ...(area ? { area } : {}) }, ...found };
  if (page) {
    const at = area ?? POINT;
    const { words, quote } = wordsIn(all, boxes.length > 0 ? boxes : [at]);
    return { ...found, place: { on: "page", itemId, page: page.number, area: at, words }, quote };
  }
  if (area) return { place: { on: "picture", itemId, area }, ...found };
  if (given.length > 0) return "Its place on the file cannot be read.";
  return { place: { on: "whole", itemId }, ...found };
}

/** The page a fragment names; of what has pages it is the first where none is named. */
function pageIn(values: string, item: Sources["items"][number]) {
  const named = /(?:^|&)page=(\d+)/.exec(values)?.[1];
  if (named !== undefined) return { number: Number(named), named: true };
  return item.type === "pages" ? { number: 1, named: false } : null;
}

function drawnIn(selectors: readonly Loose[]): { strokes?: Stroke[] } {
  const drawing = selectors.find((s) => s.type === "SvgSelector");
  const strokes = drawing && strokesOf(String(drawing.value ?? ""));
  return strokes ? { strokes } : {};
}

/** The areas that media fragments name, in per cent of the item. */
function boxesIn(values: string, item: Sources["items"][number]): Area[] {
  const pattern = /(?:^|&)xywh=(percent:|pixel:|)([-\d.]+),([-\d.]+),([-\d.]+),([-\d.]+)/g;
  return [...values.matchAll(pattern)].flatMap((box) => boxArea(box, item) ?? []);
}

/** The moment or stretch that a media fragment names. @example momentIn("t=10,20") // { from: 10, to: 20 } */
function momentIn(values: string): { from: number; to: number | null } | null {
  const time = /(?:^|&)t=(?:npt:)?([\d.:]*)(?:,([\d.:]+))?/.exec(values);
  if (!time) return null;
  return { from: seconds(time[1]!), to: time[2] === undefined ? null : seconds(time[2]) };
}

const POINT: Area = { x: 0, y: 0, w: 0, h: 0 };

/** The words of a page that selectors name, in the boxes they fill. */
function wordsIn(
  selectors: readonly Loose[],
  boxes: Area[],
): { words: PageWords | null; quote: string } {
  const position = selectors.find((s) => s.type === "TextPositionSelector");
  const quoted = selectors.find((s) => s.type === "TextQuoteSelector")?.exact;
  const [start, end] = [Number(position?.start) || 0, Number(position?.end) || 0];
  return {
    words: position ? { start, end, boxes } : null,
    quote: typeof quoted === "string" ? quoted : "",
  };
}

/** Pixels are those of the picture itself (Media Fragments URI 1.0, 4.2.2); without its size they say nothing. */
function boxArea(
  [, unit, x, y, w, h]: RegExpExecArray,
  { width, height }: Sources["items"][number],
): Area | null {
  const numbers = { x: Number(x), y: Number(y), w: Number(w), h: Number(h) };
  if (unit === "percent:") return clampArea(numbers);
  if (!width || !height) return null;
  return clampArea({
    x: (numbers.x / width) * 100,
    y: (numbers.y / height) * 100,
    w: (numbers.w / width) * 100,
    h: (numbers.h / height) * 100,
  });
}

/** Normal Play Time: seconds, mm:ss or hh:mm:ss (RFC 2326, 3.6). @example seconds("1:02.5") // 62.5 */
function seconds(npt: string): number {
  return npt === "" ? 0 : npt.split(":").reduce((sum, part) => sum * 60 + Number(part), 0);
}

/** The points of an SVG's polylines and simple paths, as strokes. */
function strokesOf(drawing: string): Stroke[] | undefined {
  const lines = [
    ...drawing.matchAll(/\bpoints="([^"]+)"/g),
    ...drawing.matchAll(/\bd="([^"]+)"/g),
  ].map((found) => {
    const numbers = (found[1]!.match(/-?\d+(?:\.\d+)?/g) ?? []).map(Number);
    return numbers.flatMap((x, n): [number, number, number][] =>
      n % 2 === 0 && numbers[n + 1] !== undefined ? [[x, numbers[n + 1]!, 0.5]] : [],
    );
  });
  const ink: Ink = INKS[0];
  const strokes = lines
    .filter((points) => points.length > 0)
    .map((points): Stroke => ({ ink, width: 0.4, points }));
  return strokes.length > 0 ? strokes : undefined;
}
