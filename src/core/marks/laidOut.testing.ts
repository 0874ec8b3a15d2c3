/** A word with an identity that it keeps through edits; −1: it was not there at first. What parts it from the next is in it. */
export type Word = { id: number; text: string };
/** Paragraphs of sentences of words. */
export type Text = Word[][][];
export type Laid = {
  text: string;
  /** Where each word stands, without the white space behind it, in order. */
  words: { id: number; start: number; end: number }[];
};

type Layout = (text: Text) => Laid;

/** As it is written: a paragraph a line. */
export const plainLayout: Layout = (text) => write(text, () => false);

/** As mail and old programs write it: lines of so many letters, and a blank line between paragraphs. */
export const wrappedAt =
  (width: number): Layout =>
  (text) =>
    write(text, (column, word) => column > 0 && column + word.length > width, "\n\n");

function write(
  text: Text,
  breaks: (column: number, word: string) => boolean,
  between = "\n",
): Laid {
  let out = "";
  let column = 0;
  const words: Laid["words"] = [];
  text.forEach((paragraph, p) => {
    if (p > 0) out = out.replace(/ +$/, "") + between;
    column = 0;
    for (const word of paragraph.flat()) {
      const bare = word.text.trimEnd();
      if (breaks(column, bare)) {
        out = `${out.replace(/ +$/, "")}\n`;
        column = 0;
      }
      words.push({ id: word.id, start: out.length, end: out.length + bare.length });
      out += word.text;
      column += word.text.length;
    }
  });
  return { text: out, words };
}

/** The same text with its words written otherwise; every word keeps its identity. */
export function rewritten({ text, words }: Laid, write: (piece: string) => string): Laid {
  let out = "";
  let at = 0;
  const moved = words.map(({ id, start, end }) => {
    out += write(text.slice(at, start));
    const from = out.length;
    out += write(text.slice(start, end));
    at = end;
    return { id, start: from, end: out.length };
  });
  return { text: out + write(text.slice(at)), words: moved };
}
