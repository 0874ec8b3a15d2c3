import Big from "big.js";

/**
 * A number with its unit, as people write it.
 *
 * `number` is exact decimal text with a full stop, an exponent perhaps. `other` is what it is too, where a single comma
 * before three digits can part the thousands as well as the decimals ("1,200"); else null.
 */
export type Quantity = { number: string; unit: string; other: string | null };

const SUPERSCRIPTS = "⁰¹²³⁴⁵⁶⁷⁸⁹";
const FRACTIONS: Readonly<Record<string, string>> = {
  ...{ "½": "1/2", "⅓": "1/3", "⅔": "2/3", "¼": "1/4", "¾": "3/4", "⅕": "1/5", "⅖": "2/5" },
  ...{ "⅗": "3/5", "⅘": "4/5", "⅙": "1/6", "⅚": "5/6", "⅛": "1/8", "⅜": "3/8", "⅝": "5/8" },
  "⅞": "7/8",
};

/** A decimal, whole groups of thousands among it: "1200", "1 200,5", "1.200.000", "12'500", ".5", "3.". */
const DECIMAL =
  /^(?:\d{1,3}(?:[ ']\d{3})+(?!\d)(?:[.,]\d*)?|\d{1,3}(?:,\d{2,3})*,\d{3}(?!\d)(?:\.\d+)?|\d{1,3}(?:\.\d{3}){2,}(?!\d)(?:,\d+)?|\d{1,3}\.\d{3},\d+|\d+(?:[.,]\d*)?|[.,]\d+)/;
const TIMES_TEN = /^\s*(?:[eE]|[x×*·]\s*10\s*\^?)\s*([-+]?\d{1,3})/;

/**
 * Splits what was typed into its number and unit; null where no number stands at its beginning.
 *
 * Read are thousands parted by spaces, apostrophes, commas or full stops, powers of ten (`1.2×10³`, `4e3`, `10⁵`),
 * fractions (`1/2`, `1 ½`), the signs that a keyboard or a text program puts for minus, and a full stop after the unit.
 *
 * @example readQuantity("1 200,5 km/h.") // { number: "1200.5", unit: "km/h", other: null }
 * @example readQuantity("1,200 m") // { number: "1.200", unit: "m", other: "1200" }
 */
export function readQuantity(text: string): Quantity | null {
  const clean = plainSigns(text);
  const sign = /^([-+]?)\s*/.exec(clean)!;
  const minus = sign[1] === "-" ? "-" : "";
  const rest = clean.slice(sign[0].length);
  const read = readFraction(rest) ?? readPower(rest) ?? readDecimal(rest);
  if (!read) return null;
  const unit = rest.slice(read.length).trim();
  // "1 0" is no ten, and "1 2 km" nothing at all: digits that are left over belong to no unit.
  if (/^\d/.test(unit)) return null;
  const signed = (number: string | null) => (number === null ? null : minus + number);
  return {
    number: signed(read.number)!,
    unit: unit.replace(/(?<=\p{L}|%|°|\d)\.$/u, ""),
    other: signed(read.other),
  };
}

type Read = { number: string; other: string | null; /** Signs that it took. */ length: number };

/** One sign for each thing: spaces, minus, degrees; fractions and powers spelt out. */
function plainSigns(text: string): string {
  return text
    .trim()
    .slice(0, 400)
    .replace(/[\u00a0\u2009\u202f]/g, " ")
    .replace(/[’‘]/g, "'")
    .replace(/[−–—‐‑﹣－]/g, "-")
    .replace(/℃/g, "°C")
    .replace(/℉/g, "°F")
    .replace(/[½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]/g, (sign) => ` ${FRACTIONS[sign]}`)
    .trimStart()
    .replace(/10([⁺⁻]?)([⁰¹²³⁴-⁹]{1,3})/g, (_, sign: string, digits: string) => {
      const power = [...digits].map((d) => SUPERSCRIPTS.indexOf(d)).join("");
      return `10^${sign === "⁻" ? "-" : ""}${power}`;
    });
}

/** "1/2", "1 1/2"; not the beginning of a unit. */
function readFraction(text: string): Read | null {
  const found = /^(?:(\d{1,9}) +)?(\d{1,9}) ?\/ ?(\d{1,9})(?![\d.,])/.exec(text);
  if (!found || Number(found[3]) === 0) return null;
  const [whole, above, below] = [found[1] ?? "0", found[2]!, found[3]!];
  const number = new Big(above).div(below).plus(whole).toFixed();
  return { number, other: null, length: found[0].length };
}

/** A power of ten with nothing before it: "10^5". */
function readPower(text: string): Read | null {
  const found = /^10\^([-+]?\d{1,3})/.exec(text);
  return found && { number: `1e${found[1]}`, other: null, length: found[0].length };
}

function readDecimal(text: string): Read | null {
  const [typed] = DECIMAL.exec(text) ?? [];
  if (!typed) return null;
  const ten = TIMES_TEN.exec(text.slice(typed.length));
  const power = ten ? `e${ten[1]}` : "";
  const twice = /^[1-9]\d{0,2},\d{3}$/.test(typed);
  return {
    number: plainDecimal(typed) + power,
    other: twice ? typed.replace(",", "") + power : null,
    length: typed.length + (ten?.[0].length ?? 0),
  };
}

/** With a full stop and nothing else between its digits; the last of two different signs parts the decimals. */
function plainDecimal(typed: string): string {
  const bare = typed.replace(/[ ']/g, "");
  const [commas, stops] = [bare.split(",").length - 1, bare.split(".").length - 1];
  const both = commas > 0 && stops > 0;
  const commasPart = commas > 1 || (both && bare.indexOf(",") < bare.indexOf("."));
  // Where commas part the thousands they go; where stops do, those; else a comma parts the decimals.
  const thousands = commasPart ? bare.replaceAll(",", "") : bare;
  const parted =
    !commasPart && (stops > 1 || both)
      ? bare.replaceAll(".", "").replace(",", ".")
      : thousands.replace(",", ".");
  return parted.replace(/^\./, "0.").replace(/\.$/, "");
}
