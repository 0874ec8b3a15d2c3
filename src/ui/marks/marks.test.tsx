import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import type { Place, Stroke } from "@/core/marks/place";
import { inReadingOrder, numbersOf, sayWhole, toneOf, type PlacedMark } from "./drawn";
import { MarkLayer } from "./MarkLayer";
import { laneRows } from "./laneRows";
import { TimeNotes } from "./TimeNotes";

const FILE = "00000000-0000-7000-8000-0000000000f1";
const on = (x: number, y: number, w = 0, h = 0): Place => ({
  on: "picture",
  itemId: FILE,
  area: { x, y, w, h },
});
const onPage = (
  words: {
    start: number;
    end: number;
    boxes: { x: number; y: number; w: number; h: number }[];
  } | null,
): Place => ({ on: "page", itemId: FILE, page: 2, area: { x: 5, y: 50, w: 20, h: 3 }, words });
const WORDS = { start: 0, end: 4, boxes: [{ x: 5, y: 50, w: 20, h: 3 }] };
const INK: Stroke[] = [
  {
    ink: "plum",
    width: 0.5,
    points: [
      [10, 10, 0.5],
      [20, 20, 0.5],
    ],
  },
];

type More = Partial<Pick<PlacedMark, "kind" | "body" | "replacement" | "quote" | "strokes">> & {
  nature?: "remark" | "request" | "praise";
};
let made = 0;
function mark(place: Place, { nature = "remark", ...more }: More = {}): PlacedMark {
  const whole = {
    kind: "note" as const,
    body: "",
    replacement: "",
    quote: "",
    strokes: [],
    ...more,
    place,
    nature,
  };
  return {
    ...whole,
    id: `m${(made += 1)}`,
    tone: toneOf({ nature }),
    label: sayWhole(whole),
    fixed: false,
  };
}

/** One of every kind that stands on a page or a picture, with what a screen reader is told of it. */
const KINDS: [PlacedMark, string][] = [
  [mark(on(10, 10), { body: "Which **unit**?", nature: "request" }), "pin (request): Which unit?"],
  [
    mark(on(40, 10, 20, 20), { body: "This bar.", nature: "praise" }),
    "pin on an area (praise): This bar.",
  ],
  [mark(on(60, 60), { kind: "tick" }), "stamp: well seen"],
  [mark(on(60, 80), { kind: "stamp", body: "Units?" }), "stamp: Units?"],
  [mark(on(10, 10, 10, 10), { kind: "ink", strokes: INK }), "ink"],
  [mark(onPage(WORDS), { body: "One word.", quote: "tide" }), "margin note on page 2: One word."],
  [
    mark(onPage(WORDS), { kind: "replace", quote: "tide", replacement: "tides" }),
    "edit on page 2: Instead of “tide”: “tides”.",
  ],
  [mark(onPage(WORDS), { kind: "delete", quote: "tide" }), "edit on page 2: Take out “tide”."],
];
test("what became of a mark is said with it", () => {
  const asked = { ...KINDS[0]![0], nature: "request" as const };
  expect(sayWhole({ ...asked, request: "settled" })).toBe("pin (request), settled: Which unit?");
  expect(sayWhole({ ...asked, request: null, decision: "declined" })).toBe(
    "pin (request), declined: Which unit?",
  );
});

const draw = (marks: readonly PlacedMark[], more: object = {}) =>
  renderToStaticMarkup(
    <MarkLayer
      marks={marks}
      ratio={1}
      numbers={numbersOf(marks)}
      chosen={null}
      onChoose={() => {}}
      {...more}
    />,
  );
const labels = (html: string) =>
  [...html.matchAll(/<button[^>]* aria-label="([^"]*)"/g)].map((m) =>
    m[1]!.replaceAll("&quot;", '"'),
  );

describe("marks on a page or picture", () => {
  test.each(KINDS)(
    "%#: each is a button that says what it is, where, and what it says",
    (one, said) => expect(labels(draw([one]))).toEqual([said]),
  );
  test("asking, praise and what is settled differ by more than their colour", () => {
    const look = (tone: PlacedMark["tone"]) =>
      draw([{ ...mark(on(10, 10)), tone }])
        .match(/class="([^"]*)"/g)!
        .join();
    expect(new Set((["note", "request", "praise", "settled"] as const).map(look)).size).toBe(4);
  });
  test("the number on a pin is the one on its note: down the page, stamps and ink left out", () => {
    const [low, high, stamp] = [
      mark(on(10, 80), { body: "b" }),
      mark(on(90, 10), { body: "a" }),
      mark(on(1, 1), { kind: "cross" }),
    ];
    expect([...numbersOf([low, stamp, high])]).toEqual([
      [high.id, 1],
      [low.id, 2],
    ]);
  });
  test("what came back is looked at, not moved; what is a draft says that arrows move it", () => {
    const note = mark(on(10, 10), { body: "x" });
    const grab = { onGrab: () => {}, onNudge: () => true };
    expect(draw([note], grab)).toMatch(/title="pin: x\. Arrows move it, with Alt they size it"/);
    expect(draw([{ ...note, fixed: true }], grab)).not.toContain("Arrows");
  });
});

test("notes of a margin stand as one reads: on the whole, on the text as it came, then file after file down its pages", () => {
  const other = "00000000-0000-7000-8000-0000000000f2";
  const notes = [
    mark(on(1, 80), { body: "3" }),
    mark({ on: "text" }, { body: "1" }),
    mark({ on: "picture", itemId: other, area: { x: 1, y: 1, w: 0, h: 0 } }, { body: "4" }),
    mark(on(1, 10), { body: "2" }),
    mark({ on: "whole", itemId: null }, { body: "0" }),
  ];
  expect(inReadingOrder(notes).map((n) => n.body)).toEqual(["0", "1", "2", "3", "4"]);
});

test("notes on moments stand in the order of the recording, each with where it is, and on the lane", () => {
  const at = (from: number, to: number | null, body: string) =>
    mark({ on: "time", itemId: FILE, from, to }, { body });
  const html = renderToStaticMarkup(
    <TimeNotes
      marks={[at(12, 15, "Too fast."), at(3, null, "Calm.")]}
      chosen={null}
      onChoose={() => {}}
      seconds={20}
    />,
  );
  expect([...html.matchAll(/aria-label="Play ([^"]*)"/g)].map((m) => m[1])).toEqual([
    "at 0:03",
    "at 0:12 to 0:15",
  ]);
  expect(
    [...html.matchAll(/class="lane-mark[^"]*"[^>]*aria-label="([^"]*)"/g)].map((m) => m[1]).sort(),
  ).toEqual(["time note at 0:03: Calm.", "time note at 0:12 to 0:15: Too fast."]);
});

test("marks on a lane that begin close together stand in rows, none on another", () => {
  expect(laneRows([])).toEqual([]);
  expect(
    laneRows([
      [10, 10],
      [10, 10],
      [12, 40],
      [60, 60],
    ]),
  ).toEqual([0, 1, 2, 0]);
  const many = laneRows(Array.from({ length: 40 }, () => [50, 50] as const));
  expect(new Set(many).size).toBe(5);
});
