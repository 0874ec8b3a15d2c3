import { DomHandler, Parser, type Handler } from "htmlparser2";
import type { ChildNode } from "domhandler";

/** No document that people make is nested deeper; the parser's time grows with the square of the depth. */
const DEEPEST = 1000;
class TooDeep extends Error {}

type Bounds = { xmlMode?: boolean; deepest?: number };
type Handling = Pick<Partial<Handler>, "onopentag" | "onclosetag" | "ontext">;

/**
 * Goes through HTML (or XML) tag by tag, in a time that grows with its length only: it stops where tags are
 * nested deeper than in anything that people make.
 *
 * @returns whether it was read to its end
 */
export function readTags(
  text: string,
  handling: Handling,
  { xmlMode = false, deepest = DEEPEST }: Bounds = {},
): boolean {
  let depth = 0;
  const parser = new Parser(
    {
      ...handling,
      onopentag(name, attributes, isImplied) {
        if ((depth += 1) > deepest) throw new TooDeep();
        handling.onopentag?.(name, attributes, isImplied);
      },
      onclosetag(name, isImplied) {
        depth -= 1;
        handling.onclosetag?.(name, isImplied);
      },
    },
    { xmlMode },
  );
  try {
    parser.write(text);
    parser.end();
    return true;
  } catch (error) {
    if (!(error instanceof TooDeep)) throw error;
    return false;
  }
}

/** The same as a tree; `whole` is false where reading stopped, and what came before is there. */
export function readTree(
  text: string,
  { xmlMode = false, deepest = DEEPEST }: Bounds = {},
): { children: ChildNode[]; whole: boolean } {
  const dom = new DomHandler(undefined, { xmlMode });
  const whole = readTags(
    text,
    {
      onopentag: (name, attributes) => dom.onopentag(name, attributes),
      onclosetag: () => dom.onclosetag(),
      ontext: (data) => dom.ontext(data),
    },
    { xmlMode, deepest },
  );
  return { children: dom.dom, whole };
}
