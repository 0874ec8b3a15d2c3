import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { object } from "yup";
import { toAnnotation, type Sources } from "../formats/annotations";
import { toMark } from "../formats/readAnnotation";
import { askedAgain } from "../rounds/askedAgain";
import { answeredMarks, differsFrom, type HandBackContent } from "../rounds/cameBack";
import { everyFieldMark, FILM } from "./everyField.testing";
import {
  allItSays,
  changeableOf,
  CHANGED_MARK_BODY,
  MARK_TABLE,
  NEW_MARK_BODY,
  wholeMark,
  type Mark,
  type MarkField,
} from "./schema";

const text = "It was the rain. We left.";
const onText = everyFieldMark({
  place: { on: "text" },
  start: text.indexOf("the rain"),
  end: text.indexOf("the rain") + 8,
  strokes: [],
});
const onFilm = everyFieldMark({ start: 0, end: 0 });
const marks: [string, Mark][] = [
  ["on the text", onText],
  ["on a film's still", onFilm],
];
const names = MARK_TABLE.map(([name]) => name);
const without = (mark: Mark, ...left: MarkField[]) =>
  Object.fromEntries(Object.entries(mark).filter(([name]) => !left.includes(name as MarkField)));

const content = (...list: Mark[]): HandBackContent => ({
  overall: "",
  scoreTyped: "",
  points: null,
  possible: null,
  versionId: "v1",
  marks: list,
  rulings: [],
});
const cameBack = (mark: Mark) =>
  answeredMarks(
    {
      handBacks: [{ round: 1, outcome: "revise", content: content(mark) }],
      answers: [],
      messages: new Map(),
      texts: new Map([["v1", text]]),
      items: new Set([FILM]),
    },
    text,
  )[0]!;

describe.each(marks)("every field of a mark %s goes through every copy", (_where, mark) => {
  test("kept on the device, or in a hand-back, and read again", () => {
    expect(wholeMark(JSON.parse(JSON.stringify(mark)) as Mark)).toEqual(mark);
    expect(Object.keys(wholeMark(mark))).toEqual(names);
  });
  test("what is not a field of it stays behind", () => {
    expect(wholeMark({ ...mark, revision: 3, by: "someone" } as Mark)).toEqual(mark);
  });
  test("as a new mark at the way in", () => {
    expect(object(NEW_MARK_BODY).noUnknown().validateSync(mark, { strict: true })).toEqual(mark);
  });
  test("as a change at the way in: all but what it is", () => {
    const change = changeableOf(mark);
    expect(change).toEqual(without(mark, "id", "kind"));
    expect(object(CHANGED_MARK_BODY).noUnknown().validateSync(change, { strict: true })).toEqual(
      change,
    );
  });
  test("came back to the student, where it stands said anew", () => {
    const back = cameBack(mark);
    expect(back).toMatchObject(without(mark, "start", "end"));
    expect(back.at).toEqual(mark === onText ? { start: mark.start, end: mark.end } : null);
  });
  test("asked again: all that the table says goes along, on its words as they now stand", () => {
    const again = askedAgain(cameBack(mark), "00000000-0000-7000-8000-0000000000a2", text);
    // As a note nothing is put in; all else is as it was.
    expect(without(again, "id", "replacement")).toEqual(without(mark, "id", "replacement"));
  });
  test("taken out as a web annotation and brought in again", () => {
    const sources: Sources = {
      text,
      textIri: "urn:uuid:text",
      items: [{ id: FILM, iri: `urn:uuid:${FILM}`, type: "film" }],
    };
    const annotation = JSON.parse(JSON.stringify(toAnnotation(mark, sources))) as never;
    expect(toMark(annotation, sources)).toEqual(without(mark, "id"));
  });
});

describe("is this a change?", () => {
  const others: { [F in MarkField]?: Mark[F] } = {
    kind: "ink",
    nature: "praise",
    start: 4,
    end: 10,
    quote: "other",
    body: "other",
    replacement: "other",
    place: { on: "whole", itemId: FILM },
    strokes: [],
    sentence: "Other.",
    criterionId: null,
    points: "2",
    clipId: null,
  };
  test.each(MARK_TABLE.filter(([, rule]) => rule.counts !== false))(
    "another %s says something else",
    (name) => {
      const other = { ...onFilm, [name]: others[name] };
      expect(others[name]).not.toEqual(onFilm[name]);
      expect(allItSays(other)).not.toBe(allItSays(onFilm));
      expect(differsFrom(content(onFilm), content(other))).toBe(true);
    },
  );
  test("whose it is, and the quote of words on the text, do not count", () => {
    expect(allItSays({ ...onFilm, id: "x" })).toBe(allItSays(onFilm));
    expect(allItSays({ ...onText, quote: "x" })).toBe(allItSays(onText));
  });
  test("a hand-back from before a field was there says the same as now", () => {
    const old = { id: "a", kind: "note", nature: "remark", start: 0, end: 2, body: "Hm." } as const;
    const kept = { ...content(), marks: [{ ...old, quote: "It", replacement: "" }] };
    const now = content(wholeMark({ ...old, quote: "It" }));
    expect(differsFrom(kept, now)).toBe(false);
    expect(allItSays(wholeMark(kept.marks[0]!))).toBe(allItSays(now.marks[0] as Mark));
  });
  test("the same said in another order of its fields is the same", () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(names, { minLength: names.length }), (order) => {
        const shuffled = Object.fromEntries(order.map((name) => [name, onFilm[name]])) as Mark;
        expect(allItSays(shuffled)).toBe(allItSays(onFilm));
      }),
    );
  });
});

describe("asked again when what it stood on is gone", () => {
  const again = (mark: Mark, now: string, items: string[]) =>
    askedAgain(
      answeredMarks(
        {
          handBacks: [{ round: 1, outcome: "revise", content: content(mark) }],
          answers: [],
          messages: new Map(),
          texts: new Map([["v1", text]]),
          items: new Set(items),
        },
        now,
      )[0]!,
      "again",
      now,
    );
  test("a file that is gone: a note on the whole, its drawing left behind", () => {
    expect(again(onFilm, text, [])).toMatchObject({
      place: { on: "whole", itemId: null },
      strokes: [],
      body: onFilm.body,
      points: onFilm.points,
    });
  });
  test("a drawing on a file that is there stays a drawing", () => {
    const ink = { ...onFilm, kind: "ink" } as Mark;
    expect(again(ink, text, [FILM])).toMatchObject({ kind: "ink", strokes: onFilm.strokes });
  });
  test("an edit becomes a note that says what it would have put in", () => {
    const edit = { ...onText, kind: "replace", body: "" } as Mark;
    expect(again(edit, text, [])).toMatchObject({ kind: "note", body: "the drizzle" });
  });
  test("words that are gone: on the first letter of what there is, else on the whole", () => {
    expect(again(onText, "Snow.", [])).toMatchObject({ start: 0, end: 1, quote: "the rain" });
    expect(again(onText, "", []).place).toEqual({ on: "whole", itemId: null });
  });
});
