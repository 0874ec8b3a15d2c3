import { isEdit } from "@/core/marks/mark";
import type { Mark } from "@/core/marks/schema";

/** What a note is about, on paper: nothing is level with its words there, and nothing can be pressed to find them. */
export function PrintedQuote({ mark }: { mark: Pick<Mark, "kind" | "quote" | "place"> }) {
  if (mark.place.on !== "text" || !mark.quote || isEdit(mark)) return null;
  return (
    <p className="hidden font-serif text-soft italic print:block">“{shortened(mark.quote)}”</p>
  );
}

const MOST = 90;
const shortened = (words: string) =>
  words.length > MOST ? `${words.slice(0, 60)} … ${words.slice(-25)}` : words;
