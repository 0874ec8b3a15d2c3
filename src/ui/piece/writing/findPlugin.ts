import { Extension, type Editor } from "@tiptap/core";
import { Plugin, PluginKey, TextSelection } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import type { Node } from "@tiptap/pm/model";

/** Words looked for in the writing, shown where they stand; a decoration, never part of the document. */
export const findKey = new PluginKey<{ query: string; at: number; set: DecorationSet }>(
  "almanac-find",
);

/** Every place of a query in the document, whatever its case; inside one line each. */
export function placesOf(doc: Node, query: string): { from: number; to: number }[] {
  const wanted = query.toLocaleLowerCase();
  if (!wanted) return [];
  const places: { from: number; to: number }[] = [];
  doc.descendants((node, position) => {
    if (!node.isTextblock) return;
    const text = node.textBetween(0, node.content.size, undefined, "\n").toLocaleLowerCase();
    for (
      let n = text.indexOf(wanted);
      n !== -1 && places.length < 2000;
      n = text.indexOf(wanted, n + wanted.length)
    )
      places.push({ from: position + 1 + n, to: position + 1 + n + wanted.length });
  });
  return places;
}

const draw = (doc: Node, query: string, at: number) =>
  DecorationSet.create(
    doc,
    placesOf(doc, query).map(({ from, to }, n) =>
      Decoration.inline(from, to, { class: n === at ? "found found-here" : "found" }),
    ),
  );

export const FindExtension = Extension.create({
  name: "almanacFind",
  addProseMirrorPlugins: () => [
    new Plugin({
      key: findKey,
      state: {
        init: () => ({ query: "", at: 0, set: DecorationSet.empty }),
        apply: (transaction, old, _before, after) => {
          const asked = transaction.getMeta(findKey) as { query: string; at: number } | undefined;
          if (!asked && !transaction.docChanged) return old;
          const { query, at } = asked ?? old;
          return { query, at, set: query ? draw(after.doc, query, at) : DecorationSet.empty };
        },
      },
      props: { decorations: (state) => findKey.getState(state)?.set },
    }),
  ],
});

/** Looks for words and goes to the one asked for. @returns how many there are, and which this is */
export function find(editor: Editor, query: string, wanted: number): { count: number; at: number } {
  const places = placesOf(editor.state.doc, query);
  const at = places.length === 0 ? 0 : ((wanted % places.length) + places.length) % places.length;
  const transaction = editor.state.tr.setMeta(findKey, { query, at });
  const place = places[at];
  if (place)
    transaction
      .setSelection(TextSelection.create(transaction.doc, place.from, place.to))
      .scrollIntoView();
  editor.view.dispatch(transaction);
  return { count: places.length, at };
}
