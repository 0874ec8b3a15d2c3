import type { IntlMessageFormat } from "intl-messageformat";

type Ast = ReturnType<IntlMessageFormat["getAst"]>;

/** The kinds of parts of a message that hold words: a literal, and what a choice or a plural chooses from. */
const LITERAL = 0;

/** @example accented("due") // "⟦đüé⟧" */
const accented = (words: string) =>
  words.trim() === ""
    ? words
    : `⟦${words.replace(/[a-z]/gi, (letter) => ACCENTS[letter] ?? letter)}⟧`;

const ACCENTS: Readonly<Record<string, string>> = Object.fromEntries(
  [..."aàbƀcçdđeéfƒgğhħiïjĵkķlłmḿnñoôpƥqɋrŕsštţuüvṽwŵxẋyÿzž"]
    .reduce<[string, string][]>((pairs, sign, n, all) => {
      if (n % 2 === 0) pairs.push([sign, all[n + 1]!]);
      return pairs;
    }, [])
    .flatMap(([plain, other]) => [
      [plain, other],
      [plain.toUpperCase(), other.toUpperCase()],
    ]),
);

/** A message as no language has it, and every reader still can read it: what stands there without, was left out. */
export function pseudo(ast: Ast): Ast {
  return ast.map((part) => {
    if (part.type === LITERAL) return { ...part, value: accented(part.value) };
    if (!("options" in part)) return part;
    const options = Object.fromEntries(
      Object.entries(part.options).map(([name, option]) => [
        name,
        { ...option, value: pseudo(option.value) },
      ]),
    );
    return { ...part, options } as typeof part;
  });
}
