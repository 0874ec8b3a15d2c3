import { isEdit, nameOfMark } from "../marks/mark";
import { MARK_TABLE, type Mark } from "../marks/schema";
import { itemOf, type Area, type Stroke } from "../marks/place";
import { toSelectors, type TextPositionSelector, type TextQuoteSelector } from "../text/selectors";

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
export const CLIP = "urn:uuid:";
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
  const itemId = itemOf(mark.place);
  const file = sources.items.find((i) => i.id === itemId)?.iri ?? `urn:uuid:${itemId}`;
  const selector = selectorOf(mark, sources);
  return {
    id: `urn:uuid:${mark.id}`,
    type: "Annotation",
    motivation: motivationOf(mark),
    ...(by ? { created: by.at, creator: { type: "Person" as const, name: by.name } } : {}),
    body: bodiesOf(mark),
    target: {
      source: itemId === null ? sources.textIri : file,
      ...(selector ? { selector } : {}),
    },
    "almanac:called": nameOfMark(mark),
    ...ownKeys(mark),
  };
}

function bodiesOf({ kind, body, replacement, clipId }: Mark): Annotation["body"] {
  const purpose = kind === "stamp" ? "tagging" : "commenting";
  const said = { type: "TextualBody", value: body, format: "text/markdown", purpose } as const;
  const putIn = {
    type: "TextualBody",
    value: replacement,
    format: "text/plain",
    purpose: "editing",
  } as const;
  const voice = {
    type: "Sound",
    id: `${CLIP}${clipId}`,
    format: "audio/webm",
    purpose: "commenting",
  } as const;
  return [...(body ? [said] : []), ...(replacement ? [putIn] : []), ...(clipId ? [voice] : [])];
}

/** What the model has no word for, under our own keys; what says nothing is left out. */
function ownKeys(mark: Mark): Record<`almanac:${string}`, unknown> {
  const saysNothing = (value: unknown) =>
    value === "" || value === null || (Array.isArray(value) && value.length === 0);
  return Object.fromEntries(
    MARK_TABLE.flatMap(([name, { annotation }]) =>
      annotation === null || saysNothing(mark[name]) ? [] : [[annotation, mark[name]]],
    ),
  );
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
  if (nature === "request") return "questioning";
  return nature === "praise" ? "assessing" : "commenting";
}

const percent = ({ x, y, w, h }: Area) => `xywh=percent:${x},${y},${w},${h}`;
const fragment = (value: string): Selector => ({
  type: "FragmentSelector",
  conformsTo: MEDIA_FRAGMENT,
  value,
});

const oneOrMore = (selectors: Selector[]): Selector | Selector[] =>
  selectors.length === 1 ? selectors[0]! : selectors;

function selectorOf(mark: Mark, { text }: Sources): Selector | Selector[] | null {
  const { place, strokes } = mark;
  const drawn = strokes.length > 0 ? [svg(strokes)] : [];
  switch (place.on) {
    case "text":
      return toSelectors(text, mark);
    case "whole":
      return null;
    case "time": {
      // A moment of a film with a part of its picture: both dimensions in one fragment (Media Fragments URI 1.0, 4.1).
      const times = [place.from, ...(place.to === null ? [] : [place.to])];
      const value = `t=${times.join(",")}${place.area ? `&${percent(place.area)}` : ""}`;
      return oneOrMore([...drawn, fragment(value)]);
    }
    case "picture":
      return oneOrMore([...drawn, fragment(percent(place.area))]);
    case "page": {
      const within: Selector[] = drawn;
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
