import { toneOf } from "../../marks/drawn";
import { Extension } from "@tiptap/core";
import { Plugin, PluginKey, type EditorState, type Transaction } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import { changeOf } from "@/core/marks/edits";
import { isEdit } from "@/core/marks/mark";
import { plainText, toDocPosition, toOffset } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { AnsweredMark } from "@/core/views/views";

/**
 * Marks that came back, drawn in the editor and carried along by ProseMirror's own mapping while the
 * student writes. They are decorations: never part of the document, so they cannot be handed in.
 */
export const marksKey = new PluginKey<DecorationSet>("almanac-marks");

export function marksExtension(marks: readonly AnsweredMark[]) {
  return Extension.create({
    name: "almanacMarks",
    addProseMirrorPlugins() {
      return [
        new Plugin<DecorationSet>({
          key: marksKey,
          state: {
            init: (_, state) => drawAll(state, marks),
            apply: (transaction, set) => {
              const mapped = set.map(transaction.mapping, transaction.doc);
              const redraw = transaction.getMeta(marksKey) as AnsweredMark[] | undefined;
              return redraw ? redrawn(mapped, transaction, redraw) : mapped;
            },
          },
          props: { decorations: (state) => marksKey.getState(state) },
        }),
      ];
    },
  });
}

function drawAll(state: EditorState, marks: readonly AnsweredMark[]): DecorationSet {
  const plain = plainText(state.doc.toJSON() as RichDoc);
  const decorations = marks.flatMap((mark) =>
    mark.at && isShown(mark)
      ? [decorate(mark, toDocPosition(plain, mark.at.start), toDocPosition(plain, mark.at.end))]
      : [],
  );
  return DecorationSet.create(state.doc, decorations);
}

/** New looks at the places where the marks stand by now; those no longer shown are taken away. */
function redrawn(
  set: DecorationSet,
  { doc }: Transaction,
  marks: readonly AnsweredMark[],
): DecorationSet {
  const places = new Map(set.find().map((d) => [(d.spec as { id: string }).id, d]));
  const decorations = marks.flatMap((mark) => {
    const place = places.get(mark.id);
    return place && isShown(mark) ? [decorate(mark, place.from, place.to)] : [];
  });
  return DecorationSet.create(doc, decorations);
}

/** An edit that was decided is done with; everything else stays until the next round. */
function isShown(mark: AnsweredMark): boolean {
  return !(isEdit(mark) && mark.decision !== null);
}

/** How a note looks by what became of it; edits and stamps look alike whatever did. */
function lookOf({ kind, request, nature }: AnsweredMark): string {
  if (kind !== "note") return `on-${kind}`;
  if (request === "done" || request === "settled") return "on-settled";
  return `on-${toneOf({ nature })}`;
}

function decorate(mark: AnsweredMark, from: number, to: number): Decoration {
  const spec = { id: mark.id };
  if (mark.kind === "insert" || from === to) {
    const sign = () => {
      const element = document.createElement("span");
      element.className = "sign sign-insert";
      element.dataset.mark = mark.id;
      element.textContent = `‸${mark.replacement}`;
      return element;
    };
    return Decoration.widget(from, sign, { ...spec, side: -1, key: `${mark.id}` });
  }
  return Decoration.inline(
    from,
    to,
    {
      class: `on-words ${lookOf(mark)}`,
      "data-mark": mark.id,
      ...(mark.kind === "replace" || mark.kind === "transpose"
        ? { title: `instead: ${mark.replacement}` }
        : {}),
    },
    { ...spec, inclusiveStart: false, inclusiveEnd: false },
  );
}

/**
 * The transaction that accepts an edit where it now stands; null when its words are gone. The change
 * itself is the core's, so that the page and the record agree on what "accepted" makes of a text.
 */
export function acceptTransaction(state: EditorState, mark: AnsweredMark): Transaction | null {
  const place = marksKey
    .getState(state)
    ?.find(undefined, undefined, (spec) => spec.id === mark.id)[0];
  if (!place || (mark.kind !== "insert" && place.from === place.to)) return null;
  const plain = plainText(state.doc.toJSON() as RichDoc);
  const edit = {
    kind: mark.kind as "insert" | "delete" | "replace",
    replacement: mark.replacement,
    start: toOffset(plain, place.from),
    end: toOffset(plain, place.to),
  };
  const { from, to, insert } = changeOf(plain.text, edit);
  const [first, last] = [toDocPosition(plain, from), toDocPosition(plain, to)];
  return insert === "" ? state.tr.delete(first, last) : state.tr.insertText(insert, first, last);
}
