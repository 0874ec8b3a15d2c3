import { Extension } from "@tiptap/core";
import type { Node } from "@tiptap/pm/model";
import { Plugin, PluginKey, type EditorState } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import type { Gap } from "../../text/useUnderWords";
import { marksKey } from "./markPlugin";

/**
 * Room under the paragraphs in which marks end, for the notes that stand there on a narrow screen. Decorations of the
 * paragraphs themselves: nothing is put between them, so that a caret, a selection and a phone's keyboard know of nothing.
 */
export const gapsKey = new PluginKey<DecorationSet>("almanac-gaps");

export const gapsExtension = Extension.create({
  name: "almanacGaps",
  addProseMirrorPlugins() {
    return [
      new Plugin<DecorationSet>({
        key: gapsKey,
        state: {
          init: () => DecorationSet.empty,
          // What tells of gaps changes no words, so the marks stand where they stood before it.
          apply: (transaction, set, state) => {
            const told = transaction.getMeta(gapsKey) as readonly Gap[] | undefined;
            return told ? drawn(state, told) : set.map(transaction.mapping, transaction.doc);
          },
        },
        props: { decorations: (state) => gapsKey.getState(state) },
      }),
    ];
  },
});

function drawn(state: EditorState, gaps: readonly Gap[]): DecorationSet {
  const places = marksKey.getState(state);
  const decorations = gaps.flatMap(({ markId, px }) => {
    const place = places?.find(undefined, undefined, (spec) => spec.id === markId)[0];
    const range = place ? blockAt(state.doc, place.to) : null;
    return range
      ? [Decoration.node(range.from, range.to, { style: `--gap: ${px}px`, "data-gap": "" })]
      : [];
  });
  return DecorationSet.create(state.doc, decorations);
}

/** The paragraph that holds a place, or the whole of its table. */
function blockAt(doc: Node, at: number): { from: number; to: number } | null {
  const place = doc.resolve(at);
  if (place.depth === 0) return null;
  let depth = place.depth;
  for (let d = 1; d <= place.depth; d += 1)
    if (place.node(d).type.name === "table") {
      depth = d;
      break;
    }
  return { from: place.before(depth), to: place.after(depth) };
}
