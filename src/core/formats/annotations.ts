import {
  isEdit,
  nameOfMark,
  type Mark,
  type MarkKind,
  MARK_KINDS,
  type Nature,
  NATURES,
} from "../marks/mark";
import {
  around,
  clampArea,
  INKS,
  inkArea,
  type Area,
  type Ink,
  type Place,
  type Stroke,
} from "../marks/place";
import {
  fromSelectors,
  toSelectors,
  type TextPositionSelector,
  type TextQuoteSelector,
} from "../text/selectors";

/**
 * Marks as W3C Web Annotations (Web Annotation Data Model, Recommendation of 23 February 2017), for taking
 * out and in. A mark is an Annotation: what it says is its body (3.2.2 TextualBody, in Markdown), what it is
 * for its motivation (3.3.5), where it stands the target's selectors:
 *
 * - words of the text: TextPositionSelector and TextQuoteSelector (4.2.4, 4.2.5), in code points;
 * - a page: FragmentSelector `page=n` (RFC 8118, media type application/pdf), refined by what stands on it;
 * - a place or area: FragmentSelector `xywh=percent:` (Media Fragments URI 1.0, 4.2.2);
 * - a moment or stretch: FragmentSelector `t=` (Media Fragments URI 1.0, 4.2.1);
 * - ink: SvgSelector (4.2.7), in a view box of 100 by 100.
 *
 * A voice is a body of its own, an external web resource of the class Sound (3.2, the number from memory), named by its clip.
 *
 * What the model has no word for (the kind of edit or stamp, request or praise, points) stands under our
 * own prefix `almanac:`, which a reader that does not know it may leave aside (the model's 6.2, extensions).
 */
export const CONTEXT = ["http://www.w3.org/ns/anno.jsonld", { almanac: "urn:almanac:" }] as const;
const TEXT_FRAGMENT = "http://tools.ietf.org/rfc/rfc3778";
/** Of what a voice is named by. */
const CLIP = "urn:uuid:";
const MEDIA_FRAGMENT = "http://www.w3.org/TR/media-frags/";

export type Selector =
  | TextPositionSelector
  | TextQuoteSelector
  | {
      type: "FragmentSelector";
      conformsTo: string;
      value: string;
      refinedBy?: Selector | Selector[];
    }
  | { type: "SvgSelector"; value: string };
export type Annotation = {
  "@context"?: unknown;
  id: string;
  type: "Annotation";
  motivation: string;
  created?: string;
  creator?: { type: "Person"; name: string };
  body: (
    | { type: "TextualBody"; value: string; format: string; purpose: string }
    | { type: "Sound"; id: string; format: string; purpose: string }
  )[];
  target: { source: string; selector?: Selector | Selector[] };
  [ours: `almanac:${string}`]: unknown;
};

/** What marks stand on: the text of the work, and its files by id with the addresses they are known by outside. */
export type Sources = {
  text: string;
  textIri: string;
  items: readonly {
    id: string;
    iri: string;
    type: string;
    /** Of a picture, for areas given in its pixels. */ width?: number | null;
    height?: number | null;
  }[];
};

export function toAnnotation(
  mark: Mark,
  sources: Sources,
  by?: { name: string; at: string },
): Annotation {
  const place: Place = mark.place ?? { on: "text" };
  const source =
    "itemId" in place && place.itemId
      ? (sources.items.find((i) => i.id === place.itemId)?.iri ?? `urn:uuid:${place.itemId}`)
      : sources.textIri;
  const selector = selectorOf(mark, place, sources);
  const body: Annotation["body"] = [];
  if (mark.body)
    body.push({
      type: "TextualBody",
      value: mark.body,
      format: "text/markdown",
      purpose: mark.kind === "stamp" ? "tagging" : "commenting",
    });
  if (mark.replacement)
    body.push({
      type: "TextualBody",
      value: mark.replacement,
      format: "text/plain",
      purpose: "editing",
    });
  if (mark.clipId)
    body.push({
      type: "Sound",
      id: `${CLIP}${mark.clipId}`,
      format: "audio/webm",
      purpose: "commenting",
    });
  return {
    id: `urn:uuid:${mark.id}`,
    type: "Annotation",
    motivation: motivationOf(mark),
    ...(by ? { created: by.at, creator: { type: "Person" as const, name: by.name } } : {}),
    body,
    target: { source, ...(selector ? { selector } : {}) },
    "almanac:kind": mark.kind,
    "almanac:nature": mark.nature,
    "almanac:called": nameOfMark(mark),
    ...(mark.quote ? { "almanac:quote": mark.quote } : {}),
    ...(mark.sentence ? { "almanac:sentence": mark.sentence } : {}),
    ...(mark.points ? { "almanac:points": mark.points } : {}),
    ...(mark.criterionId ? { "almanac:criterion": mark.criterionId } : {}),
    ...(mark.strokes?.length ? { "almanac:ink": mark.strokes } : {}),
  };
}

export function toCollection(
  marks: readonly Mark[],
  sources: Sources,
  label: string,
  by?: { name: string; at: string },
): object {
  return {
    "@context": CONTEXT,
    id: `${sources.textIri}#marks`,
    type: "AnnotationCollection",
    label,
    total: marks.length,
    first: {
      id: `${sources.textIri}#marks-1`,
      type: "AnnotationPage",
      startIndex: 0,
      items: marks.map((m) => toAnnotation(m, sources, by)),
    },
  };
}

function motivationOf({ kind, nature }: Mark): string {
  if (isEdit({ kind })) return "editing";
  if (kind === "ink") return "highlighting";
  if (kind !== "note") return "assessing";
  return nature === "request" ? "questioning" : nature === "praise" ? "assessing" : "commenting";
}

const percent = ({ x, y, w, h }: Area) => `xywh=percent:${x},${y},${w},${h}`;
const fragment = (value: string): Selector => ({
  type: "FragmentSelector",
  conformsTo: MEDIA_FRAGMENT,
  value,
});

function selectorOf(mark: Mark, place: Place, { text }: Sources): Selector | Selector[] | null {
  switch (place.on) {
    case "text":
      return toSelectors(text, mark);
    case "whole":
      return null;
    case "time": {
      // A moment of a film with a part of its picture: both dimensions in one fragment (Media Fragments URI 1.0, 4.1).
      const value = `${place.to === null ? `t=${place.from}` : `t=${place.from},${place.to}`}${place.area ? `&${percent(place.area)}` : ""}`;
      return mark.strokes?.length ? [svg(mark.strokes), fragment(value)] : fragment(value);
    }
    case "picture":
      return mark.strokes?.length
        ? [svg(mark.strokes), fragment(percent(place.area))]
        : fragment(percent(place.area));
    case "page": {
      const within: Selector[] = mark.strokes?.length ? [svg(mark.strokes)] : [];
      if (place.words)
        within.push(
          { type: "TextPositionSelector", start: place.words.start, end: place.words.end },
          { type: "TextQuoteSelector", exact: mark.quote, prefix: "", suffix: "" },
        );
      // Words that run over lines fill a box in each.
      within.push(
        ...(place.words ? place.words.boxes : [place.area]).map((box) => fragment(percent(box))),
      );
      return {
        type: "FragmentSelector",
        conformsTo: TEXT_FRAGMENT,
        value: `page=${place.page}`,
        refinedBy: within,
      };
    }
  }
}

function svg(strokes: readonly Stroke[]): Selector {
  const lines = strokes
    .map(
      (s) =>
        `<polyline fill="none" stroke-width="${s.width}" points="${s.points.map(([x, y]) => `${x},${y}`).join(" ")}"/>`,
    )
    .join("");
  return {
    type: "SvgSelector",
    value: `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100" preserveAspectRatio="none">${lines}</svg>`,
  };
}

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
  const bodies = listOf(annotation.body ?? annotation.bodyValue);
  const said = (purpose: (p: unknown) => boolean) =>
    bodies
      .flatMap((b) =>
        typeof b === "string"
          ? purpose(undefined)
            ? [b]
            : []
          : typeof b?.value === "string" && purpose(b.purpose)
            ? [b.value]
            : [],
      )
      .join("\n\n");
  const targets = listOf(annotation.target);
  const target = targets[0];
  if (targets.length === 0) return "It has no target.";
  const iri =
    typeof target === "string"
      ? target
      : String((target?.source as { id?: string })?.id ?? target?.source ?? target?.id ?? "");
  const [bare, hash] = [iri.replace(/#.*$/, ""), /#(.*)$/.exec(iri)?.[1]];
  const item = sources.items.find((i) => i.iri === bare || i.iri === iri);
  if (!item && bare !== sources.textIri && iri !== sources.textIri)
    return "It is about something that is not in this piece.";
  const selectors = (typeof target === "object" ? listOf(target?.selector) : []).flatMap((s) =>
    typeof s === "object" && s ? [s] : [],
  );
  if (hash && item) selectors.push({ type: "FragmentSelector", value: hash });
  const placed = item ? placeOn(item, selectors) : placeInText(selectors, sources.text);
  if (typeof placed === "string") return placed;
  const kindGiven = annotation["almanac:kind"];
  const replacement = said((p) => p === "editing");
  const strokes = (annotation["almanac:ink"] as Stroke[] | undefined) ?? placed.strokes;
  const kind = MARK_KINDS.includes(kindGiven as MarkKind)
    ? (kindGiven as MarkKind)
    : strokes?.length
      ? "ink"
      : replacement && placed.place.on === "text"
        ? placed.start === placed.end
          ? "insert"
          : "replace"
        : "note";
  const natureGiven = annotation["almanac:nature"];
  const nature = NATURES.includes(natureGiven as Nature)
    ? (natureGiven as Nature)
    : annotation.motivation === "questioning"
      ? "request"
      : "remark";
  const body = said((p) => p !== "editing");
  const voice = bodies.find(
    (b) =>
      typeof b === "object" &&
      b.type === "Sound" &&
      typeof b.id === "string" &&
      b.id.startsWith(CLIP),
  ) as { id: string } | undefined;
  const clipId = voice ? voice.id.slice(CLIP.length) : null;
  const text = (value: unknown) => (typeof value === "string" ? value : "");
  return {
    kind,
    nature,
    body: kind === "note" && body === "" && !clipId ? "(no words)" : body,
    clipId,
    replacement,
    quote: placed.quote || text(annotation["almanac:quote"]),
    start: placed.start,
    end: placed.end,
    place: placed.place,
    strokes: strokes ?? [],
    sentence: text(annotation["almanac:sentence"]),
    criterionId: null,
    points: typeof annotation["almanac:points"] === "string" ? annotation["almanac:points"] : null,
  };
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
const listOf = (value: unknown): (Loose | string)[] =>
  value === undefined || value === null
    ? []
    : Array.isArray(value)
      ? (value as (Loose | string)[])
      : [value as Loose | string];
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
  const page = /(?:^|&)page=(\d+)/.exec(values);
  const time = /(?:^|&)t=(?:npt:)?([\d.:]*)(?:,([\d.:]+))?/.exec(values);
  const boxes = [
    ...values.matchAll(/(?:^|&)xywh=(percent:|pixel:|)([-\d.]+),([-\d.]+),([-\d.]+),([-\d.]+)/g),
  ].flatMap((box) => boxArea(box, item) ?? []);
  const drawn = all.find((s) => s.type === "SvgSelector");
  const strokes = drawn ? strokesOf(String(drawn.value ?? "")) : undefined;
  const area = around(boxes) ?? (strokes ? inkArea(strokes) : null);
  const none = { start: 0, end: 0, quote: "", ...(strokes ? { strokes } : {}) };
  if (time && !page)
    return {
      place: {
        on: "time",
        itemId: item.id,
        from: seconds(time[1]!),
        to: time[2] === undefined ? null : seconds(time[2]),
        ...(area ? { area } : {}),
      },
      ...none,
    };
  if (page || item.type === "pages") {
    const position = all.find((s) => s.type === "TextPositionSelector");
    const quote = all.find((s) => s.type === "TextQuoteSelector");
    const at = area ?? around([{ x: 0, y: 0, w: 0, h: 0 }])!;
    const words = position
      ? {
          start: Number(position.start) || 0,
          end: Number(position.end) || 0,
          boxes: boxes.length > 0 ? boxes : [at],
        }
      : null;
    return {
      place: { on: "page", itemId: item.id, page: Number(page?.[1] ?? 1), area: at, words },
      ...none,
      quote: typeof quote?.exact === "string" ? quote.exact : "",
    };
  }
  if (area) return { place: { on: "picture", itemId: item.id, area }, ...none };
  return given.length === 0
    ? { place: { on: "whole", itemId: item.id }, ...none }
    : "Its place on the file cannot be read.";
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
