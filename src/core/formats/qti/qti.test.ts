import { describe, expect, test } from "@jest/globals";
import { DOMParser } from "@xmldom/xmldom";
import { judge } from "../../questions/judge";
import type { Question } from "../../questions/question";
import { readQtiItem } from "./readQti";
import { writeManifest, writeQtiItem } from "./writeQti";

const ids = () => {
  let n = 0;
  return () => `id${(n += 1)}`;
};
const c = (id: string, text: string) => ({ id, text });
const SET: Question[] = [
  {
    id: "1",
    kind: "one choice",
    text: "Which cloud is <highest> & thin?",
    points: "1",
    choices: [c("a", "stratus"), c("b", "cirrus")],
    right: "b",
  },
  {
    id: "2",
    kind: "several choices",
    text: "Which bring rain?\nChoose all.",
    points: "2",
    choices: [c("a", "nimbostratus"), c("b", "cirrus"), c("d", "cumulonimbus")],
    right: ["a", "d"],
  },
  {
    id: "3",
    kind: "short text",
    text: "The tide with the least range",
    points: "1.5",
    accepted: ["neap tide", "neap"],
    exactCase: false,
    exactAccents: true,
    exactSpaces: false,
  },
  {
    id: "4",
    kind: "number",
    text: "Range of the tide",
    points: "2",
    value: "1.35",
    unit: "m",
    tolerance: "0.05",
  },
  {
    id: "5",
    kind: "number",
    text: "Mass",
    points: "1",
    value: "-1200",
    unit: "g",
    tolerance: "5%",
  },
  {
    id: "6",
    kind: "matching",
    text: "Give each moon its name",
    points: "3",
    left: [c("a", "half, growing"), c("b", "all bright")],
    right: [c("x", "full moon"), c("y", "first quarter"), c("z", "new moon")],
    pairs: { a: "y", b: "x" },
  },
  {
    id: "7",
    kind: "ordering",
    text: "From low to high",
    points: "2",
    items: [c("a", "stratus"), c("b", "altocumulus"), c("d", "cirrus")],
  },
  { id: "8", kind: "free text", text: "Why?", points: "4", lines: 6 },
];

/** The same but for ids. */
const plain = (q: Question) => {
  const names = new Map<string, string>();
  const walk = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(walk);
    if (typeof v !== "object" || v === null) return names.get(String(v)) ?? v;
    const others = Object.entries(v).filter(([k]) => k !== "id");
    return Object.fromEntries(others.map(([k, x]) => [names.get(k) ?? k, walk(x)]));
  };
  for (const list of [
    (q as { choices?: { id: string; text: string }[] }).choices,
    (q as { left?: { id: string; text: string }[] }).left,
    Array.isArray((q as { right?: unknown }).right)
      ? (q as { right: { id: string; text: string }[] }).right
      : [],
  ])
    for (const choice of list ?? [])
      if (typeof choice === "object") names.set(choice.id, choice.text);
  return walk(q);
};

describe("QTI 3.0", () => {
  test.each(SET.map((q) => [q.kind, q] as const))("%s comes back as it went out", (_, question) => {
    const { xml } = writeQtiItem(question);
    // An XML parser that is not the reader's own finds it well-formed.
    const faults: string[] = [];
    new DOMParser({
      onError: (level, message) => faults.push(`${level} ${message}`),
    }).parseFromString(xml, "text/xml");
    expect(faults).toEqual([]);
    const read = readQtiItem(xml, ids());
    expect(read.ok && plain(read.question)).toEqual(plain(question));
  });
  test("the manifest names every item, and control characters do not break it", () => {
    const items = SET.map(writeQtiItem);
    const manifest = writeManifest("Tides \u0007& moons", items);
    const parsed = new DOMParser().parseFromString(manifest, "text/xml");
    expect(
      Array.from(parsed.getElementsByTagName("resource"), (r) => r.getAttribute("href")),
    ).toEqual(items.map((i) => i.name));
    expect(parsed.getElementsByTagName("title")[0]!.textContent).toBe("Tides & moons");
  });
  // In the shape of the best-known item of the specification's implementation guide, here with words of our own;
  // names of elements and attributes from memory.
  test("an item as other programs write it, in 3.0 and in 2.1", () => {
    const three = `<qti-assessment-item xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="choice" title="Signs" adaptive="false" time-dependent="false"><qti-response-declaration identifier="RESPONSE" cardinality="single" base-type="identifier"><qti-correct-response><qti-value>ChoiceA</qti-value></qti-correct-response></qti-response-declaration><qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float"/><qti-item-body><p>Look at the sign.</p><qti-choice-interaction response-identifier="RESPONSE" shuffle="false" max-choices="1"><qti-prompt>What does it <em>say</em>?</qti-prompt><qti-simple-choice identifier="ChoiceA">Stay with your boat.</qti-simple-choice><qti-simple-choice identifier="ChoiceB">Leave it.</qti-simple-choice></qti-choice-interaction></qti-item-body></qti-assessment-item>`;
    const read = readQtiItem(three, ids());
    expect(read).toMatchObject({
      ok: true,
      question: {
        kind: "one choice",
        text: "Look at the sign.\nWhat does it say?",
        points: "1",
        choices: [{ text: "Stay with your boat." }, { text: "Leave it." }],
      },
    });
    if (read.ok && read.question.kind === "one choice")
      expect(judge(read.question, read.question.choices[0]!.id).state).toBe("right");
    const two = three
      .replace(/qti-/g, "")
      .replace(/assessment-item/g, "assessmentItem")
      .replace(/(response|outcome)-declaration/g, "$1Declaration")
      .replace(/correct-response/g, "correctResponse")
      .replace(/item-body/g, "itemBody")
      .replace(/(choice)-interaction/g, "$1Interaction")
      .replace(/simple-choice/g, "simpleChoice")
      .replace(/response-identifier/g, "responseIdentifier")
      .replace(/base-type/g, "baseType");
    expect(readQtiItem(two, ids())).toMatchObject({ ok: true, question: { kind: "one choice" } });
  });
  test("what cannot be read is said", () => {
    const said = (xml: string) => {
      const read = readQtiItem(xml, ids());
      return read.ok ? "read" : read.why;
    };
    expect(said("hello")).toBe("there is no assessment item in it");
    expect(
      said('<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]><qti-assessment-item/>'),
    ).toContain("entities");
    expect(
      said(
        '<qti-assessment-item><qti-response-declaration identifier="R"/><qti-item-body><qti-hotspot-interaction response-identifier="R"/></qti-item-body></qti-assessment-item>',
      ),
    ).toContain("hotspot-interaction");
    expect(
      said(
        writeQtiItem(SET[0]!).xml.replace(/<qti-correct-response>.*?<\/qti-correct-response>/, ""),
      ),
    ).toContain("which answer is right");
    expect(
      said(writeQtiItem(SET[5]!).xml.replace(/<qti-value>i-b i-x<\/qti-value>/, "")),
    ).toContain("partner");
  });
});

/**
 * A reader of response processing, written from what the elements of the binding mean (QTI 3.0, from memory): what
 * another program makes of an item.
 */
describe("another program scores a set as it is scored here", () => {
  type El = {
    tagName: string;
    getAttribute(name: string): string | null;
    children: El[];
    textContent: string;
  };
  const wrap = (node: unknown): El => {
    const n = node as {
      tagName: string;
      getAttribute(x: string): string | null;
      textContent: string;
      childNodes: ArrayLike<{ nodeType: number }>;
    };
    return {
      tagName: n.tagName,
      getAttribute: (name) => n.getAttribute(name),
      textContent: n.textContent,
      children: Array.from(n.childNodes)
        .filter((c) => c.nodeType === 1)
        .map(wrap),
    };
  };
  const find = (el: El, tag: string): El[] => [
    ...(el.tagName === tag ? [el] : []),
    ...el.children.flatMap((child) => find(child, tag)),
  ];

  function score(xml: string, response: string[] | null, ordered: boolean): number {
    const item = wrap(new DOMParser().parseFromString(xml, "text/xml").documentElement);
    const [declaration] = find(item, "qti-response-declaration");
    const key = find(declaration!, "qti-correct-response")
      .flatMap((c) => find(c, "qti-value"))
      .map((v) => v.textContent);
    const [mapping] = find(declaration!, "qti-mapping");
    let points = 0;
    const same = (a: string[] | null, b: string[] | null) =>
      a !== null &&
      b !== null &&
      a.length === b.length &&
      (ordered ? a.every((x, n) => x === b[n]) : a.every((x) => b.includes(x)));
    const mapped = () => {
      const entries = mapping!.children.map(
        (e) =>
          [
            e.getAttribute("map-key")!,
            Number(e.getAttribute("mapped-value")),
            e.getAttribute("case-sensitive") !== "false",
          ] as const,
      );
      const sum = [...new Set(response ?? [])].reduce(
        (total, value) =>
          total +
          (entries.find(
            ([k, , exact]) => k === value || (!exact && k.toLowerCase() === value.toLowerCase()),
          )?.[1] ?? 0),
        0,
      );
      const [low, high] = ["lower-bound", "upper-bound"].map((name) => mapping!.getAttribute(name));
      return Math.min(
        high === null ? sum : Number(high!),
        Math.max(low === null ? sum : Number(low!), sum),
      );
    };
    const value = (el: El): string[] | null => {
      if (el.tagName === "qti-variable")
        return el.getAttribute("identifier") === "SCORE" ? [String(points)] : response;
      if (el.tagName === "qti-correct") return key;
      if (el.tagName === "qti-base-value") return [el.textContent];
      if (el.tagName === "qti-map-response") return [String(mapped())];
      if (el.tagName === "qti-sum")
        return [String(el.children.reduce((sum, c) => sum + Number(value(c)![0]), 0))];
      const at = value(el.children[0]!)?.[Number(el.getAttribute("n")) - 1];
      return at === undefined ? null : [at];
    };
    const run = (els: readonly El[]): void => {
      for (const el of els) {
        if (el.tagName === "qti-set-outcome-value") points = Number(value(el.children[0]!)![0]);
        if (el.tagName !== "qti-response-condition") continue;
        const [then, otherwise] = el.children;
        const [test, ...acts] = then!.children;
        const [a, b] = test!.children.map(value);
        const tolerance =
          Number(test!.getAttribute("tolerance") ?? 0) *
          (test!.getAttribute("tolerance-mode") === "relative" ? Number(b?.[0]) / 100 : 1);
        const holds =
          test!.tagName === "qti-equal"
            ? a !== null && Math.abs(Number(a![0]) - Number(b![0])) <= Math.abs(tolerance) + 1e-9
            : same(a!, b!);
        if (holds) run(acts);
        else run(otherwise?.children ?? []);
      }
    };
    const [processing] = find(item, "qti-response-processing");
    if (processing?.getAttribute("template")?.endsWith("map_response.xml")) return mapped();
    run(processing?.children ?? []);
    return points;
  }

  const subsets = (ids: string[]): string[][] =>
    ids.reduce<string[][]>((all, id) => all.flatMap((s) => [s, [...s, id]]), [[]]);
  const orders = (ids: string[]): string[][] =>
    ids.length <= 1
      ? [ids]
      : ids.flatMap((id) => orders(ids.filter((x) => x !== id)).map((rest) => [id, ...rest]));
  const ANSWERS: Partial<Record<Question["kind"], (q: never) => [unknown, string[]][]>> = {
    "one choice": (q: Extract<Question, { kind: "one choice" }>) =>
      q.choices.map(({ id }) => [id, [`i-${id}`]]),
    "several choices": (q: Extract<Question, { kind: "several choices" }>) =>
      subsets(q.choices.map((x) => x.id))
        .filter((s) => s.length > 0)
        .map((s) => [s, s.map((id) => `i-${id}`)]),
    "short text": () => ["neap tide", "Neap", "spring"].map((text) => [text, [text]]),
    matching: (q: Extract<Question, { kind: "matching" }>) =>
      q.right.flatMap((x) =>
        q.right.map((y): [unknown, string[]] => {
          const [a, b] = [q.left[0]!, q.left[1]!];
          return [{ [a.id]: x.id, [b.id]: y.id }, [`i-${a.id} i-${x.id}`, `i-${b.id} i-${y.id}`]];
        }),
      ),
    ordering: (q: Extract<Question, { kind: "ordering" }>) =>
      orders(q.items.map((x) => x.id)).map((order) => [order, order.map((id) => `i-${id}`)]),
    number: (q: Extract<Question, { kind: "number" }>) =>
      [q.value, "1.39", "1.41", "-1150", "-1100"].map((value) => [`${value} ${q.unit}`, [value]]),
  };
  test.each(SET.filter((q) => ANSWERS[q.kind]).map((q) => [`${q.id}, ${q.kind}`, q] as const))(
    "question %s",
    (_name, question) => {
      const { xml } = writeQtiItem(question);
      const answers = ANSWERS[question.kind]!(question as never);
      for (const [ours, theirs] of answers) {
        const expected = Number(judge(question, ours as never).points);
        expect([
          ours,
          Math.round(100 * score(xml, theirs, question.kind === "ordering")) / 100,
        ]).toEqual([ours, expected]);
      }
      expect(score(xml, null, false)).toBe(0);
    },
  );
});
