/**
 * What two spellings of the same words have in common, for comparing and never for showing: one form of composed
 * letters and of compatible signs (Unicode Standard Annex 15, NFKC), one kind of quotation mark, apostrophe and
 * hyphen, and no signs that only say where a line may break or how letters join.
 *
 * @example normalForm("“naı̈ve” e‐mail") === normalForm('"naı̈ve" e-mail')
 */
export function normalForm(text: string): string {
  // Most words have nothing to fold, and there are many of them.
  if (/^[A-Za-z0-9]*$/.test(text)) return text;
  return isAscii(text) ? text.replace(/"/g, "'") : fold(text.normalize("NFKC"));
}

/** A word without the signs that join its parts: "e-mail" is "email", and "dont" is "don't". */
export const bareForm = (key: string): string => key.replace(/[-'.,]/g, "");

export const isAscii = (text: string): boolean => !/[^\u0000-\u007f]/.test(text);

/** Quotation marks of all kinds and apostrophes (general categories Pi and Pf, primes, low and corner marks). */
const QUOTES =
  /["\p{Pi}\p{Pf}\u02bc\u02b9\u2032\u2033\u201a\u201e\u300c-\u300f\u301d-\u301f\u05f3\u05f4`\u00b4]/gu;
/** Hyphens, dashes and minus signs (Pd, U+2212). */
const DASHES = /[\p{Pd}\u2212]/gu;
/** Soft hyphen, zero-width space, joiners and non-joiners, direction marks, byte-order mark, the Arabic stroke. */
const UNSEEN = /[\u00ad\u200b-\u200f\u2060\u2066-\u2069\u202a-\u202e\ufeff\u0640]/g;

const fold = (text: string): string =>
  text.replace(UNSEEN, "").replace(QUOTES, "'").replace(DASHES, "-");
