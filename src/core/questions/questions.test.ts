import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { answerKey } from "./groups";
import { judge, sameText } from "./judge";
import { readQuantity } from "./quantity";
import { askedQuestion, checkQuestions, readAnswer, type Question } from "./question";

const number = (value: string, unit: string, tolerance = ""): Question => ({
  id: "n",
  kind: "number",
  text: "How much?",
  points: "2",
  value,
  unit,
  tolerance,
});
const verdict = (q: Question, answer: string) =>
  `${judge(q, answer).state}${judge(q, answer).note ? `: ${judge(q, answer).note}` : ""}`;

describe("numbers with units", () => {
  // Factors: BIPM, The International System of Units (SI Brochure, 9th edition 2019), tables 7 and 8 (prefixes; litre,
  // hectare, tonne, hour), and the exact definitions inch = 25.4 mm, pound = 0.453 592 37 kg (international yard
  // and pound agreement 1959), standard atmosphere 101 325 Pa, knot = 1852 m/h. Values from memory.
  test.each([
    ["1.2", "kg", "1200 g"],
    ["1.2", "kg", "1,2 kg"],
    ["1.2", "kg", "0.0012 t"],
    ["2.54", "cm", "1 in"],
    ["0.45359237", "kg", "1 lb"],
    ["3", "m", "300cm"],
    ["1", "l", "1000 cm^3"],
    ["1", "L", "1 dm³"],
    ["250", "ml", "0,25 l"],
    ["36", "km/h", "10 m/s"],
    ["1.852", "km/h", "1 knot"],
    ["1013.25", "hPa", "101325 Pa"],
    ["90", "min", "1.5 h"],
    ["20", "°C", "68 °F"],
    ["0", "degC", "273.15 K"],
    ["5", "uA", "0.005 mA"],
    ["1", "ha", "10000 m²"],
    ["3", "MJ", "3000 kJ"],
    ["50", "%", "50 %"],
    ["-4", "m", "−4 m"],
    ["1200", "m", "1 200 m"],
    ["4.2e3", "J", "4.2×10^3 J"],
    ["4200", "J", "4.2e3 J"],
  ])("%s %s is %s", (value, unit, answer) =>
    expect(verdict(number(value, unit), answer)).toBe("right"),
  );
  test("a right number in the wrong unit is told apart", () => {
    expect(verdict(number("1.2", "kg"), "1.2 g")).toBe(
      "wrong: the number is right, the unit is not",
    );
    expect(verdict(number("1.2", "kg"), "1.2 m")).toBe(
      "wrong: the number is right, the unit is not",
    );
    expect(verdict(number("1.2", "kg"), "1.2")).toBe(
      "wrong: the number is right, the unit is missing",
    );
    expect(verdict(number("1.2", "kg"), "1.2 blorps")).toBe(
      "wrong: the number is right, the unit “blorps” is not known",
    );
    expect(verdict(number("1.2", "kg"), "7 m")).toBe("wrong: the unit is of another kind");
    expect(verdict(number("7", ""), "7 m")).toBe(
      "wrong: the number is right; there should be no unit",
    );
    expect(verdict(number("7", ""), "seven")).toBe("wrong: there is no number in it");
  });
  test("tolerance is absolute or per cent, its bounds included", () => {
    expect(verdict(number("3.4", "m", "0.1"), "3.5 m")).toBe("right");
    expect(verdict(number("3.4", "m", "0.1"), "3.51 m")).toBe("wrong");
    expect(verdict(number("3.4", "m", "0,1"), "330 cm")).toBe("right");
    expect(verdict(number("200", "g", "5%"), "210 g")).toBe("right");
    expect(verdict(number("200", "g", "5 %"), "0.2101 kg")).toBe("wrong");
    expect(verdict(number("0.3", "", ""), "0.30")).toBe("right");
  });
  test("what people type as a number", () => {
    expect(readQuantity("12'500 m")).toEqual({ number: "12500", unit: "m", other: null });
    expect(readQuantity(".5 l")).toEqual({ number: "0.5", unit: "l", other: null });
    expect(readQuantity("about 5")).toBeNull();
    expect(readQuantity("")).toBeNull();
  });
  // How numbers are written: SI Brochure, 9th edition (2019), 5.4.4 (either sign parts the decimals, thin spaces the
  // thousands) and common practice where commas, full stops or apostrophes part thousands (no source).
  test.each([
    ["1 200", "1200", ""],
    ["1\u202f200,5 m", "1200.5", "m"],
    ["1,200.5 m", "1200.5", "m"],
    ["1.200,5 m", "1200.5", "m"],
    ["1,200,000", "1200000", ""],
    ["1.200.000 kg", "1200000", "kg"],
    ["12,00,000", "1200000", ""],
    ["1.200 kg", "1.200", "kg"],
    ["0,125", "0.125", ""],
    ["1.2×10³ J", "1.2e3", "J"],
    ["1.2 x 10^-3", "1.2e-3", ""],
    ["6,02·10²³", "6.02e23", ""],
    ["10⁵ Pa", "1e5", "Pa"],
    ["3⋅m", null, ""],
    ["–5 °C", "-5", "°C"],
    ["−5 ℃", "-5", "°C"],
    ["+7", "7", ""],
    ["5 km.", "5", "km"],
    ["5.", "5", ""],
    ["1/2 l", "0.5", "l"],
    ["¾ h", "0.75", "h"],
    ["1 ½ h", "1.5", "h"],
    ["2½", "2.5", ""],
    ["-1 1/4", "-1.25", ""],
    ["5 m/s", "5", "m/s"],
    ["1 0", null, ""],
    ["12 34 m", null, ""],
    ["1/0", null, ""],
  ])("%j is %s", (text, number, unit) => {
    const read = readQuantity(text);
    if (number === null) {
      // What follows a number is its unit; signs that are none leave an unknown one.
      expect(read === null || read.unit !== "").toBe(true);
    } else expect(read).toEqual({ number, unit, other: null });
  });
  test("one that can be read in two ways is left to the teacher, where it makes a difference, once for all alike", () => {
    expect(readQuantity("1,200 m")).toEqual({ number: "1.200", unit: "m", other: "1200" });
    const said = "for the teacher: “1,200 m” can be 1200 or 1.2";
    expect(verdict(number("1200", "m"), "1,200 m")).toBe(said);
    expect(verdict(number("1.2", "m"), "1,200 m")).toBe(said);
    expect(verdict(number("7", "m"), "1,200 m")).toContain("wrong");
    const asked = number("1200", "m");
    const key = (answer: string) => answerKey(asked, answer);
    expect(key("1,200 m")).toBe(key("1,200  m"));
    expect(new Set([key("1,200 m"), key("1200 m"), key("1.2 m")]).size).toBe(3);
  });
  test("answers are alike as strictly as the question is", () => {
    const power = number("5", "mW");
    expect(answerKey(power, "5 mW")).not.toBe(answerKey(power, "5 MW"));
    expect(answerKey(power, "5 mW")).toBe(answerKey(power, "5.0 mW."));
    expect(answerKey(number("1", "l"), "1 l")).toBe(answerKey(number("1", "l"), "1 L"));
    const town = (exactCase: boolean): Question => ({
      ...{ id: "q", kind: "short text", text: "Where?", points: "1", accepted: ["Paris"] },
      ...{ exactCase, exactAccents: false, exactSpaces: false },
    });
    expect(answerKey(town(true), "paris")).not.toBe(answerKey(town(true), "Paris"));
    expect(answerKey(town(false), "paris")).toBe(answerKey(town(false), " Paris"));
  });
  test("a temperature that cannot be is wrong, and nothing worse", () => {
    for (const typed of ["-1200 °C", "-1 K", "1e999 °C", "-500 °F"])
      expect(verdict(number("-5", "°C"), typed)).toBe("wrong: no temperature is so low or so high");
    expect(verdict(number("0", "K"), "-273.15 °C")).toBe("right");
  });
  test("whatever is alike has one verdict", () => {
    const asked = [number("1.2", "mW", "10 %"), number("1200", ""), number("-5", "°C")];
    const typed = fc.tuple(
      fc.constantFrom("", "-", "–", "−"),
      fc.constantFrom(
        "5",
        "1200",
        "1,200",
        "1.200",
        "1 200",
        "1.2",
        "1,2",
        "1.2×10³",
        "1200.0",
        "½",
      ),
      fc.constantFrom("", " mW", " MW", " °C", "℃", " mw", " mW."),
    );
    fc.assert(
      fc.property(fc.constantFrom(...asked), typed, typed, (question, a, b) => {
        const [one, two] = [a.join(""), b.join("")];
        return (
          answerKey(question, one) !== answerKey(question, two) ||
          judge(question, one).state === judge(question, two).state
        );
      }),
      { numRuns: 1000 },
    );
  });
  test("any number is right against itself", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1_000_000, max: 1_000_000 }),
        fc.constantFrom("m", "kg", "s", "l", "hPa", ""),
        (n, unit) => judge(number(String(n), unit), `${n} ${unit}`).state === "right",
      ),
    );
  });
});

test("short text is as strict as the teacher says", () => {
  const loose = { exactCase: false, exactAccents: false, exactSpaces: false };
  expect(sameText(loose, "Fjörður", " fjordur ")).toBe(false); // ð is a letter of its own, not an accent
  expect(sameText(loose, "élan vital", " Elan  Vital")).toBe(true);
  expect(sameText({ ...loose, exactAccents: true }, "élan", "elan")).toBe(false);
  expect(sameText({ ...loose, exactCase: true }, "pH", "ph")).toBe(false);
  expect(sameText({ ...loose, exactSpaces: true }, "a b", "a  b")).toBe(false);
  expect(sameText(loose, "it’s", "it's")).toBe(true);
  expect(sameText(loose, "Ada", " “Ada.” ")).toBe(true);
  expect(sameText({ ...loose, exactSpaces: true }, "Ada", "Ada.")).toBe(false);
  expect(sameText(loose, "?", "!")).toBe(false);
  expect(sameText({ exactCase: true, exactAccents: true, exactSpaces: true }, "é", "e\u0301")).toBe(
    true,
  ); // one letter in two spellings of Unicode
});

const choices = [
  { id: "a", text: "stratus" },
  { id: "b", text: "cumulus" },
  { id: "c", text: "cirrus" },
];
test("choices, pairs and orders count their parts", () => {
  const one: Question = {
    id: "q",
    kind: "one choice",
    text: "?",
    points: "1",
    choices,
    right: "b",
  };
  expect(judge(one, "b")).toMatchObject({ state: "right", points: "1" });
  expect(judge(one, "a")).toMatchObject({ state: "wrong", points: "0" });
  expect(judge(one, null).state).toBe("nothing given");
  const several: Question = {
    id: "q",
    kind: "several choices",
    text: "?",
    points: "2",
    choices,
    right: ["a", "c"],
  };
  expect(judge(several, ["c", "a"])).toMatchObject({ state: "right", points: "2" });
  expect(judge(several, ["a"])).toMatchObject({ state: "partly", points: "1", note: "1 of 2" });
  expect(judge(several, ["a", "b", "c"])).toMatchObject({ state: "partly", points: "1" });
  expect(judge(several, ["b"])).toMatchObject({ state: "wrong", points: "0" });
  expect(judge(several, ["a", "b", "c"]).parts).toEqual([
    { id: "a", same: true },
    { id: "b", same: false },
    { id: "c", same: true },
  ]);
  const order: Question = { id: "q", kind: "ordering", text: "?", points: "3", items: choices };
  expect(judge(order, ["a", "c", "b"])).toMatchObject({ state: "partly", points: "1" });
  const match: Question = {
    id: "q",
    kind: "matching",
    text: "?",
    points: "1",
    left: choices,
    right: choices,
    pairs: { a: "a", b: "b", c: "c" },
  };
  expect(judge(match, { a: "a", b: "c", c: "c" })).toMatchObject({
    state: "partly",
    points: "0.67",
  });
  expect(
    judge({ id: "q", kind: "free text", text: "?", points: "4", lines: 3 }, "because"),
  ).toMatchObject({ state: "for the teacher", points: null });
});

describe("what a student gets and sends", () => {
  const order: Question = { id: "q", kind: "ordering", text: "?", points: "3", items: choices };
  const sign = (id: string) => ({ a: "3", b: "1", c: "2" })[id] ?? id;
  test("nothing in the question gives the key away, and the order is that of the signs", () => {
    const asked = askedQuestion(order, sign);
    expect(asked.choices.map((c) => [c.id, c.text])).toEqual([
      ["1", choices[1]!.text],
      ["2", choices[2]!.text],
      ["3", choices[0]!.text],
    ]);
    expect(JSON.stringify(askedQuestion(number("1.2", "kg", "5%"), sign))).not.toMatch(
      /1\.2|kg|5%/,
    );
    expect(
      JSON.stringify(
        askedQuestion(
          {
            id: "q",
            kind: "short text",
            text: "?",
            points: "1",
            accepted: ["neap"],
            exactCase: false,
            exactAccents: false,
            exactSpaces: false,
          },
          sign,
        ),
      ),
    ).not.toContain("neap");
  });
  test("an answer of another shape or with unknown choices is refused", () => {
    expect(readAnswer(order, ["b", "b", "a"])).toEqual(["b", "a"]);
    expect(() => readAnswer(order, ["z"])).toThrow("could not be read");
    expect(() => readAnswer(order, "a")).toThrow();
    expect(() => readAnswer(number("1", "m"), "9".repeat(500))).toThrow();
    expect(readAnswer(number("1", "m"), "2 \u0000m")).toBe("2 m");
  });
  test("a set says what is wrong with it, question by question", () => {
    expect(checkQuestions([])).toEqual({ questions: "Write at least one question." });
    const bad: Question[] = [
      { ...order, text: " " },
      { ...order, items: choices.slice(0, 1) },
      number("many", "m"),
      number("1", "m", "x"),
      { id: "q", kind: "one choice", text: "?", points: "1", choices, right: "z" },
      {
        id: "q",
        kind: "short text",
        text: "?",
        points: "one",
        accepted: [""],
        exactCase: false,
        exactAccents: false,
        exactSpaces: false,
      },
    ];
    expect(Object.keys(checkQuestions(bad))).toEqual(
      [0, 1, 2, 3, 4, 5].map((n) => `questions[${n}]`),
    );
    expect(checkQuestions([order, number("1", "m")])).toEqual({});
  });
});
