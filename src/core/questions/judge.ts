import Big from "big.js";
import Qty from "js-quantities";
import { type Answer, isGiven, type Question } from "./question";
import { readQuantity } from "./quantity";

/**
 * What the key says of an answer. `parts` goes through the answer's own parts (the chosen, the pairs, the
 * places of an order); free text is for a person to read.
 */
export type Verdict = {
  state: "right" | "partly" | "wrong" | "nothing given" | "for the teacher";
  /** Decimal text, from 0 to the question's points; null: for the teacher. */
  points: string | null;
  /** What to say beside it: "the number is right, the unit is not". */
  note: string;
  parts: { id: string; same: boolean }[];
};

/**
 * Holds an answer against the key. Choices, pairs and orders can be partly right: several choices count right
 * ones less wrong ones, never below nothing; pairs and places count singly.
 *
 * @example judge({ kind: "number", value: "1.2", unit: "kg", … }, "1200 g").state // "right"
 */
export function judge(question: Question, answer: Answer | undefined): Verdict {
  if (question.kind === "free text")
    return {
      state: isGiven(answer) ? "for the teacher" : "nothing given",
      points: isGiven(answer) ? null : "0",
      note: "",
      parts: [],
    };
  if (!isGiven(answer)) return { state: "nothing given", points: "0", note: "", parts: [] };
  switch (question.kind) {
    case "one choice":
      return whole(question, answer === question.right, "", [
        { id: String(answer), same: answer === question.right },
      ]);
    case "several choices": {
      const given = answer as string[];
      const parts = question.choices.map(({ id }) => ({
        id,
        same: given.includes(id) === question.right.includes(id),
      }));
      const right = given.filter((id) => question.right.includes(id)).length;
      const wrong = given.length - right;
      return share(question, {
        right: Math.max(0, right - wrong),
        of: question.right.length,
        parts,
        all: parts.every((p) => p.same),
      });
    }
    case "short text":
      return whole(
        question,
        question.accepted.some((accepted) => sameText(question, accepted, String(answer))),
        "",
      );
    case "number":
      return judgeNumber(question, String(answer));
    case "matching": {
      const given = answer as Record<string, string>;
      const parts = question.left.map(({ id }) => ({ id, same: given[id] === question.pairs[id] }));
      return share(question, { right: sameOf(parts), of: parts.length, parts });
    }
    case "ordering": {
      const given = answer as string[];
      const parts = given.map((id, n) => ({ id, same: question.items[n]?.id === id }));
      return share(question, { right: sameOf(parts), of: question.items.length, parts });
    }
  }
}

const sameOf = (parts: Verdict["parts"]) => parts.filter((p) => p.same).length;

const whole = (
  { points }: Question,
  same: boolean,
  note: string,
  parts: Verdict["parts"] = [],
): Verdict => ({
  state: same ? "right" : "wrong",
  points: same ? decimal(points).toString() : "0",
  note,
  parts,
});

type Shared = { right: number; of: number; parts: Verdict["parts"]; all?: boolean };

function share({ points }: Question, { right, of, parts, all = right === of }: Shared): Verdict {
  const state = stateOf(all, right > 0);
  return {
    state,
    points: all
      ? decimal(points).toString()
      : decimal(points).times(right).div(of).round(2).toString(),
    note: state === "partly" ? `${right} of ${of}` : "",
    parts,
  };
}

/** A comma is a decimal point, and the true minus sign a minus. */
const decimal = (text: string) =>
  new Big(
    text
      .trim()
      .replace(",", ".")
      .replace("−", "-")
      .replace(/^\+/, "")
      .replace(/^(-?)\./, "$10.")
      .replace(/\.(?=$|e)/i, ""),
  );

type ShortText = Extract<Question, { kind: "short text" }>;
type Strictness = Pick<ShortText, "exactCase" | "exactAccents" | "exactSpaces">;

/** @example sameText({ exactCase: false, exactAccents: false, exactSpaces: false }, "élan vital", " Elan  Vital") // true */
export function sameText(how: Strictness, a: string, b: string): boolean {
  return plainText(how, a) === plainText(how, b);
}

/** A short text without what makes no difference to this question: two that come out the same are one answer. */
export function plainText(how: Strictness, text: string): string {
  let t = text.normalize("NFC").replace(/[’‘]/g, "'").replace(/[“”]/g, '"').replace(/[‐-―]/g, "-");
  // Signs around it are no part of an answer, unless it is nothing else.
  if (!how.exactSpaces) {
    t = t.trim().replace(/\s+/g, " ");
    t = t.replace(/^[.,;:!?"' ]+|[.,;:!?"' ]+$/g, "") || t;
  }
  if (!how.exactAccents) t = t.normalize("NFD").replace(/\p{M}/gu, "");
  return how.exactCase ? t : t.toLocaleLowerCase("en").replaceAll("ß", "ss");
}

type Numeric = Extract<Question, { kind: "number" }>;

/** No unit that is taught has more factors: kg·m²/s³ has three. */
const MOST_FACTORS = 5;

/**
 * Whether a text has the shape of a unit: a few short names with powers. The library tries every way of
 * cutting a text into units, which takes for ever where one is said over and over.
 */
const isUnit = (text: string): boolean =>
  text.length <= 40 && text.split(/[\s*/]+/).filter(Boolean).length <= MOST_FACTORS;

/** One name for a unit however it is typed; what no unit is known by stays as it is, capitals and all: 5 mW is not 5 MW. */
export const unitKey = (unit: string): string =>
  unit.trim() === "" ? "" : (unitOf(unit)?.units() ?? unit.trim());

/** The way units are typed, as the units library writes them. */
function unitOf(text: string): Qty | null {
  const plain = text
    .trim()
    .replace(/[µμ]/g, "u")
    .replace(/²/g, "^2")
    .replace(/³/g, "^3")
    .replace(/⁻¹/g, "^-1")
    .replace(/⁻²/g, "^-2")
    .replace(/·/g, "*")
    .replace(/^°\s*/, "deg")
    .replace(/^deg([CFK])$/, "temp$1")
    .replace(/^K$/, "tempK");
  if (!isUnit(plain)) return null;
  return Qty.parse(
    plain === "%"
      ? "percent"
      : plain
          .replace(/\bl\b/g, "L")
          .replace(/^ha$/, "hectare")
          .replace(/^ml$/i, "mL")
          .replace(/^min$/, "min"),
  );
}

const OPEN: Omit<Verdict, "note"> = { state: "wrong", points: "0", parts: [] };

function judgeNumber(question: Numeric, answer: string): Verdict {
  const given = readQuantity(answer);
  if (!given) return { ...OPEN, note: "there is no number in it" };
  const { number, unit, other } = given;
  const verdict = judgeQuantity(question, { number, unit });
  if (other === null) return verdict;
  // Where it can mean two numbers and only one of them is right, a person decides, once for all who wrote it so.
  const second = judgeQuantity(question, { number: other, unit });
  if (second.state === verdict.state) return verdict;
  const note = `“${answer.trim()}” can be ${Number(other)} or ${Number(number)}`;
  return { state: "for the teacher", points: null, note, parts: [] };
}

function judgeQuantity(question: Numeric, given: { number: string; unit: string }): Verdict {
  const key = decimal(question.value);
  const number = decimal(given.number);
  const margin = marginOf(question, key);
  const quantity: Given = {
    number,
    unit: given.unit,
    key,
    margin,
    near: number.minus(key).abs().lte(margin),
  };
  if (question.unit === "") return judgeBare(question, quantity);
  if (given.unit !== "") return judgeUnit(question, quantity);
  const missing = "the unit is missing";
  return { ...OPEN, note: quantity.near ? `the number is right, ${missing}` : missing };
}

/** What was answered, beside the key: `near` looks at the numbers alone, as if there were no units. */
type Given = { number: Big; unit: string; key: Big; margin: Big; near: boolean };

function judgeBare(question: Numeric, { unit, near }: Given): Verdict {
  if (unit !== "" && near) return { ...OPEN, note: "the number is right; there should be no unit" };
  return whole(question, near, unit ? "there should be no unit" : "");
}

const OTHER_UNIT = "the number is right, the unit is not";

function judgeUnit(question: Numeric, given: Given): Verdict {
  const { unit, near } = given;
  const mine = unitOf(unit);
  const wanted = unitOf(question.unit);
  if (!wanted) {
    const same = unit.trim() === question.unit.trim();
    return whole(question, near && same, near && !same ? OTHER_UNIT : "");
  }
  if (!mine) {
    const unknown = `the unit “${unit}” is not known`;
    return { ...OPEN, note: near ? `the number is right, ${unknown}` : unknown };
  }
  if (!mine.isCompatible(wanted))
    return { ...OPEN, note: near ? OTHER_UNIT : "the unit is of another kind" };
  return judgeConverted(question, given, convert(given.number, mine, wanted));
}

/** @param inWanted the number in the question's own unit */
function judgeConverted(question: Numeric, given: Given, inWanted: string | null): Verdict {
  const { unit, near } = given;
  if (inWanted === null) return { ...OPEN, note: "no temperature is so low or so high" };
  const converted = new Big(inWanted);
  // Between unlike units the library's factors have six or seven digits (a knot is 0.514444 m/s there).
  const noise = given.key.abs().times(unit === question.unit ? 0 : "2e-6");
  const same = converted.minus(given.key).abs().lte(given.margin.plus(noise));
  return whole(question, same, !same && near ? OTHER_UNIT : "");
}

/** Temperatures convert with their zero, all else by a factor; null: there is no such temperature. */
function convert(number: Big, mine: Qty, wanted: Qty): string | null {
  if (mine.kind() === "temperature") return convertTemperature(Number(number), mine, wanted);
  return number
    .times(String(mine.to(wanted.units()).scalar))
    .div(String(wanted.scalar))
    .toString();
}

function convertTemperature(number: number, mine: Qty, wanted: Qty): string | null {
  try {
    const { scalar } = Qty(number, mine.units()).to(wanted.units());
    return Number.isFinite(scalar) ? String(scalar) : null;
  } catch {
    // The library refuses what lies below absolute zero.
    return null;
  }
}

function marginOf({ tolerance }: Numeric, key: Big): Big {
  if (tolerance.trim() === "") return new Big(0);
  const share = /^(.*?)\s*%$/.exec(tolerance.trim());
  return share ? key.abs().times(decimal(share[1]!)).div(100) : decimal(tolerance).abs();
}

/** Right as a whole, right in part, or wrong. */
export function stateOf(all: boolean, some: boolean): Verdict["state"] {
  if (all) return "right";
  return some ? "partly" : "wrong";
}
