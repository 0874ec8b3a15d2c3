import { Extension } from "@tiptap/core";
import { NodeSelection, Plugin, TextSelection } from "@tiptap/pm/state";

/**
 * What is typed while a file or a picture is chosen goes into a new paragraph behind it: a press on a film to play it
 * chooses it too, and the next letter would stand in its place.
 */
export const TypeBehind = Extension.create({
  name: "typeBehind",
  addProseMirrorPlugins: () => [
    new Plugin({
      props: {
        handleTextInput({ state, dispatch }, _from, _to, text) {
          const { selection, schema, tr } = state;
          if (
            !(selection instanceof NodeSelection) ||
            !selection.node.isAtom ||
            !selection.node.isBlock
          )
            return false;
          const paragraph = schema.nodes.paragraph!.create(null, schema.text(text));
          tr.insert(selection.to, paragraph);
          const end = selection.to + 1 + text.length;
          dispatch(tr.setSelection(TextSelection.create(tr.doc, end)).scrollIntoView());
          return true;
        },
      },
    }),
  ],
});
