import { IntlMessageFormat } from "intl-messageformat";
import { LOCALES, type Language } from "./languages";
import * as en from "./messages/en";
import * as fr from "./messages/fr";
import { pseudo } from "./pseudo";

/** Every area with its messages, in ICU MessageFormat (Unicode; read by formatjs): a file for each area and language. */
export const MESSAGES: Readonly<Record<Language, typeof en>> = { en, fr };
export type Area = keyof typeof en;
export type Values = Readonly<Record<string, string | number>>;
export type Say<A extends Area> = (key: keyof (typeof en)[A], values?: Values) => string;

/** A language, or the one that is none: by it what was not said by a message is seen. */
export type Tongue = Language | "pseudo";

const made = new Map<string, IntlMessageFormat>();

/**
 * What an area says in a language. Numbers and plurals are the language's own (Unicode CLDR).
 *
 * @example sayIn("week", "fr")("letters", { count: 2 }) // "2 lettres à lire"
 */
export const sayIn =
  <A extends Area>(area: A, tongue: Tongue): Say<A> =>
  (key, values) => {
    const name = `${tongue} ${area} ${String(key)}`;
    const known = made.get(name) ?? formatOf(area, tongue, String(key));
    made.set(name, known);
    return String(known.format(values));
  };

function formatOf(area: Area, tongue: Tongue, key: string): IntlMessageFormat {
  const language = tongue === "pseudo" ? "en" : tongue;
  const words = (MESSAGES[language][area] as Record<string, string>)[key]!;
  const format = new IntlMessageFormat(words, LOCALES[language]);
  return tongue === "pseudo" ? new IntlMessageFormat(pseudo(format.getAst()), LOCALES.en) : format;
}
