import { transposed } from "../src/core/marks/mark";
import { type MarkKind, type Nature } from "@/core/marks/schema";
import { inkArea, type Area, type Place, type Stroke } from "../src/core/marks/place";
import { sentenceAround, withSentence } from "../src/core/text/noteText";
import type { Call } from "../src/server/call";
import { addMark } from "../src/server/marking/marks";
import { readItems, type ItemRow } from "../src/server/items/items";
import type { VersionRow } from "../src/server/life/queries";
import { readContent } from "../src/server/life/queries";
import { anyOf, between, chance, type Random } from "./random";
import { putVoice } from "./voices";

/** Marks of every kind, as the teachers of the demo put them on files and on words. */
type Given = {
  kind?: MarkKind;
  nature?: Nature;
  body?: string;
  strokes?: Stroke[];
  place: Place;
  clipId?: string;
};

const ON_GRAPHS = [
  "Start the axis at nought, or say that you don’t.",
  "Which unit? Write it at the axis.",
  "This bar ends between two lines. What did you read?",
  "The peak: which day, and why that one?",
  "A line here would show the mean.",
];
const ON_SKETCHES = [
  "Rightly seen: flat below, heaped above.",
  "Where is the horizon?",
  "Which family does this cloud belong to? Look at the height first.",
  "The edge is softer than you drew it. Look once more.",
];
const ON_SOUND = [
  "Too fast here: nobody can write this down.",
  "Say the gale as calmly as the calm.",
  "Visibility is missing after this area.",
  "Good pause.",
  "The areas go round the island in order. Which comes before this one?",
];
const ON_READING = [
  "Read this sentence once more, as slowly as you wrote it.",
  "Here one hears that you were there.",
  "Let the end of the line fall.",
];
const ON_FILM = [
  "Hold the camera still until the water is.",
  "Here one can read the scale. Stay longer.",
  "What is this beside the gauge? It keeps the rain off.",
  "A good place: nothing over it.",
];

function linesOn({ inText, kind }: ItemRow): string[] {
  if (inText) return ON_READING;
  return kind === "sound" ? ON_SOUND : ON_FILM;
}
const ON_PAGES = [
  "Put the unit in the head of the column, once.",
  "This is a result, not a conclusion.",
  "Could I do it again from this description?",
  "Number your tables, so that you can speak of them.",
];

export async function markFiles(
  call: Call,
  pieceId: string,
  versionId: string,
  random: Random,
  outcome: "draft" | "revise" | "final",
  newId: () => string,
): Promise<void> {
  const put = (given: Given) =>
    addMark(call, pieceId, {
      id: newId(),
      kind: given.kind ?? "note",
      nature: given.nature ?? "remark",
      start: 0,
      end: 0,
      body: given.body ?? "",
      replacement: "",
      versionId,
      commentId: null,
      place: given.place,
      strokes: given.strokes ?? [],
      clipId: given.clipId ?? null,
    });
  const draw = (strokes: Stroke[], placed: (area: Area) => Place) =>
    put({ kind: "ink", strokes, place: placed(inkArea(strokes)!) });
  const asks: Nature = outcome === "final" ? "remark" : "request";
  for (const item of await readItems(call.tx, pieceId, { version: versionId })) {
    const itemId = item.id;
    if (item.kind === "photo" || item.kind === "picture") {
      const sketch = item.name.startsWith("sky");
      const at = (x: number, y: number, w = 0, h = 0): Place => ({
        on: "picture",
        itemId,
        area: { x, y, w, h },
      });
      await put({
        place: at(between(random, 18, 30), between(random, 66, 78)),
        nature: asks,
        body: anyOf(random, sketch ? ON_SKETCHES : ON_GRAPHS),
      });
      if (chance(random, 0.7))
        await put({
          place: at(between(random, 40, 50), 34, between(random, 16, 28), between(random, 18, 30)),
          body: anyOf(random, sketch ? ON_SKETCHES : ON_GRAPHS),
        });
      if (chance(random, 0.6))
        await put({ kind: "tick", place: at(between(random, 70, 84), between(random, 16, 26)) });
      if (chance(random, 0.3))
        await put({
          kind: "stamp",
          body: anyOf(random, ["Units?", "Show how"]),
          place: at(between(random, 30, 60), 12),
        });
      if (chance(random, 0.6))
        await draw([ring(between(random, 45, 60), between(random, 42, 55), random)], (area) => ({
          on: "picture",
          itemId,
          area,
        }));
    } else if (item.kind === "sound" || item.kind === "film") {
      const lines = linesOn(item);
      const length = Math.max(3, Math.floor(item.about.seconds ?? 4));
      if (chance(random, 0.5))
        await put({
          place: { on: "time", itemId, from: Math.max(0.5, length - 2.5), to: null },
          clipId: await putVoice(
            call,
            item.kind === "film" ? "moment-3" : anyOf(random, ["moment-1", "moment-2"]),
            pieceId,
          ),
        });
      if (item.kind === "film" && chance(random, 0.8))
        await draw([ring(50, 62, random)], (area) => ({
          on: "time",
          itemId,
          from: 2,
          to: 4,
          area,
        }));
      await put({
        place: { on: "time", itemId, from: Math.min(1, length - 1), to: null },
        nature: asks,
        body: anyOf(random, lines),
      });
      if (chance(random, 0.7))
        await put({
          place: {
            on: "time",
            itemId,
            from: Math.floor(length / 2),
            to: Math.min(length, Math.floor(length / 2) + 2),
          },
          nature: chance(random, 0.4) ? "praise" : "remark",
          body: anyOf(random, lines),
        });
    } else if (item.kind === "document" || item.kind === "pdf") {
      const at = (x: number, y: number, w = 0, h = 0): Place => ({
        on: "page",
        itemId,
        page: 1,
        area: { x, y, w, h },
        words: null,
      });
      await put({
        place: at(12, between(random, 10, 16), 60, 6),
        nature: asks,
        body: anyOf(random, ON_PAGES),
      });
      if (chance(random, 0.6)) await put({ kind: "star", place: at(86, between(random, 20, 30)) });
      if (chance(random, 0.4))
        await draw([underline(14, between(random, 24, 34), random)], (area) => ({
          on: "page",
          itemId,
          page: 1,
          area,
          words: null,
        }));
      if (chance(random, 0.3))
        await put({
          place: { on: "whole", itemId },
          nature: "praise",
          body: "A report that one can hold. Keep the file.",
        });
    }
  }
}

/** On words, what the bank does not say: two words to change places, a star, the student's sentence corrected, praise. */
export async function markMore(
  call: Call,
  pieceId: string,
  version: VersionRow,
  random: Random,
  taken: readonly [number, number][],
  newId: () => string,
): Promise<void> {
  const { text } = await readContent(call.tx, version.id);
  const free = (start: number, end: number) => !taken.some(([a, b]) => start < b && end > a);
  const put = (
    kind: MarkKind,
    start: number,
    end: number,
    more: { nature?: Nature; body?: string; replacement?: string; sentence?: string } = {},
  ) =>
    addMark(call, pieceId, {
      id: newId(),
      kind,
      nature: more.nature ?? "remark",
      start,
      end,
      body: more.body ?? "",
      replacement: more.replacement ?? "",
      sentence: more.sentence ?? "",
      versionId: version.id,
      commentId: null,
    });
  const pair =
    /\b(?:cold and wet|old and grey|wind and rain|up and down|higher much|slowly very)\b/u.exec(
      text,
    );
  if (pair && free(pair.index, pair.index + pair[0].length))
    await put("transpose", pair.index, pair.index + pair[0].length, {
      replacement: transposed(pair[0])!,
    });
  const long = [...text.matchAll(/[^.\n]{70,150}\./gu)].find((m) =>
    free(m.index, m.index + m[0].length),
  );
  if (!long) return;
  const words = {
    start: long.index + /^\s*/.exec(long[0])![0].length,
    end: long.index + long[0].length,
  };
  if (chance(random, 0.18)) {
    const sentence = sentenceAround(text, words);
    const shorter = sentence
      .replace(/\b(?:very|really|just|I think that|I think) /gu, "")
      .replace(/, (?:and|but) (\p{Ll})/u, (_, letter: string) => `. ${letter.toUpperCase()}`);
    if (shorter !== sentence)
      await put("note", words.start, words.end, {
        body: withSentence("Read both aloud. Which breathes better?", shorter).text.trimEnd(),
        sentence,
      });
  } else if (chance(random, 0.25)) await put("star", words.start, words.end);
  else if (chance(random, 0.3))
    await put("note", words.start, words.end, {
      nature: "praise",
      body: anyOf(random, [
        "*This* is the sentence I will remember.",
        "Here I stood beside you.",
        "Exact, and not a word too many.",
      ]),
    });
}

const SPOKEN = ["note-1", "note-2", "note-3", "note-4", "note-5"];

/** Now and then the teacher says it: on words, on the whole. Some transcripts are corrected, some have a short title. */
export async function speak(
  call: Call,
  pieceId: string,
  version: VersionRow,
  random: Random,
  newId: () => string,
  own: boolean,
): Promise<void> {
  const { text } = await readContent(call.tx, version.id);
  const base = {
    kind: "note" as const,
    nature: "remark" as const,
    body: "",
    replacement: "",
    versionId: version.id,
    commentId: null,
  };
  if (chance(random, 0.3)) {
    const start = text.indexOf(". ", Math.floor(text.length / 3)) + 2;
    const end = text.indexOf(" ", start + 24);
    const clipId = await putVoice(
      call,
      own ? anyOf(random, SPOKEN) : "note-6",
      pieceId,
      chance(random, 0.4) ? { corrected: true } : chance(random, 0.3) ? { title: "next step" } : {},
    );
    if (start > 1 && end > start)
      await addMark(call, pieceId, { ...base, id: newId(), start, end, clipId });
  }
  if (own && chance(random, 0.14))
    await addMark(call, pieceId, {
      ...base,
      id: newId(),
      start: 0,
      end: 0,
      place: { on: "whole", itemId: null },
      clipId: await putVoice(call, anyOf(random, ["whole-1", "whole-2"]), pieceId, {
        corrected: chance(random, 0.5),
      }),
    });
}

/** A ring as a hand draws one: not quite closed, pressed harder on the way down. */
function ring(x: number, y: number, random: Random): Stroke {
  const [rx, ry] = [between(random, 8, 13), between(random, 6, 10)];
  return {
    ink: anyOf(random, ["plum", "ember", "tide"] as const),
    width: 0.7,
    points: Array.from({ length: 34 }, (_, n) => [
      x + rx * Math.cos(0.4 + n / 5),
      y + ry * Math.sin(0.4 + n / 5),
      0.35 + 0.3 * Math.abs(Math.sin(n / 6)),
    ]),
  };
}

function underline(x: number, y: number, random: Random): Stroke {
  const length = between(random, 24, 44);
  return {
    ink: "plum",
    width: 0.5,
    points: Array.from({ length: 16 }, (_, n) => [
      x + (n * length) / 15,
      y + 0.25 * Math.sin(n),
      0.5,
    ]),
  };
}
