import { chance, upTo, type Random } from "../random";
import type { Block } from "./blocks";
import { addition } from "./letter";
import { MISTAKES } from "./mistakes";

/** What a student makes of a piece that came back: most mistakes mended, a number given its unit, a sentence put in or cut, now and then a paragraph moved. */
export function reviseBlocks(random: Random, blocks: readonly Block[], diligence: number): Block[] {
  const mended = blocks.map((block): Block => {
    if (block.kind === "table" || block.kind === "heading") return block;
    let { text } = block;
    for (const [wrong, right] of MISTAKES)
      if (chance(random, diligence)) text = text.replace(wrong, right);
    text = text.replace(/\bvery (?=\p{L})/u, () => (chance(random, diligence) ? "" : "very "));
    text = text
      .replace("is 40 higher", () =>
        chance(random, diligence) ? "is 40 cm higher" : "is 40 higher",
      )
      .replace("The wettest", "By far the wettest");
    text = text.replace(
      /Things lie around there that nobody wants\./,
      "Two oars, a boot and a bucket without a bottom lie around there.",
    );
    return { ...block, text };
  });
  const paragraphs = mended
    .map((b, n) => (b.kind === "paragraph" && b.text.length > 120 ? n : -1))
    .filter((n) => n >= 0);
  const at = paragraphs[upTo(random, paragraphs.length)];
  if (at !== undefined) {
    const { text } = mended[at] as { text: string };
    const sentences = text.split(/(?<=[.!?]) /);
    if (chance(random, 0.35) && sentences.length > 3)
      sentences.splice(1 + upTo(random, sentences.length - 2), 1);
    sentences.splice(1 + upTo(random, sentences.length), 0, addition(random));
    mended[at] = { kind: "paragraph", text: sentences.join(" ") };
  }
  if (paragraphs.length > 3 && chance(random, 0.25)) {
    const [moved] = mended.splice(paragraphs[1]!, 1);
    mended.splice(paragraphs[2]!, 0, moved!);
  }
  return mended;
}
