import { classes } from "../../kit/classes";
import { toneOf } from "../../marks/drawn";
import { noteInk } from "../../marks/noteInk";
import { Extension } from "@tiptap/core";
import { Plugin, PluginKey, type EditorState, type Transaction } from "@tiptap/pm/state";
import { Decoration, DecorationSet } from "@tiptap/pm/view";
import { closeHistory } from "@tiptap/pm/history";
import { changeOf, whyNotAccept } from "@/core/marks/edits";
import { isEdit, type Edit } from "@/core/marks/mark";
import { plainText, toDocPosition, toOffset } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { AnsweredMark } from "@/core/views/views";

/**
 * Marks that came back, drawn in the editor and carried along by ProseMirror's own mapping while the
 * student writes. They are decorations: never part of the document, so they cannot be handed in.
 */
export const marksKey = new PluginKey<DecorationSet>("almanac-marks");

/** What is told to the plugin: how the marks look by now, or where they stood in a text that is there again. */
export type Told = { marks: readonly AnsweredMark[] } | { places: DecorationSet };

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
              const told = transaction.getMeta(marksKey) as Told | undefined;
              if (told && "places" in told) return told.places;
              return told ? redrawn(mapped, transaction, told.marks) : mapped;
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
    if (!place) return [];
    // One that is decided is not drawn any more, but keeps its place: the decision can be undone.
    return [isShown(mark) ? decorate(mark, place.from, place.to) : unseen(mark, place)];
  });
  return DecorationSet.create(doc, decorations);
}

const unseen = ({ id }: AnsweredMark, { from, to }: { from: number; to: number }): Decoration =>
  from === to
    ? Decoration.widget(from, () => document.createElement("span"), { id, side: -1, key: id })
    : Decoration.inline(from, to, {}, { id });

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
      class: classes("on-words", lookOf(mark), noteInk(mark.ink)),
      "data-mark": mark.id,
      ...(mark.kind === "replace" || mark.kind === "transpose"
        ? { title: `instead: ${mark.replacement}` }
        : {}),
    },
    { ...spec, inclusiveStart: false, inclusiveEnd: false },
  );
}

/** Where an edit stands by now in what is written, with the words it was made on. */
function editNow(state: EditorState, mark: AnsweredMark) {
  const place = marksKey
    .getState(state)
    ?.find(undefined, undefined, (spec) => spec.id === mark.id)[0];
  if (!place) return null;
  const plain = plainText(state.doc.toJSON() as RichDoc);
  const { quote, replacement } = mark;
  const kind = mark.kind as Edit["kind"];
  const range = { start: toOffset(plain, place.from), end: toOffset(plain, place.to) };
  return { plain, edit: { kind, quote, replacement, ...range } };
}

/** Why the page cannot make the change of an edit; null: it can. */
export function whyNotHere(
  state: EditorState,
  mark: AnsweredMark,
): ReturnType<typeof whyNotAccept> {
  const now = editNow(state, mark);
  return now ? whyNotAccept(now.plain.text, now.edit) : "gone";
}

/**
 * The transaction that accepts an edit where it now stands, a step to undo of its own; null when its words no longer stand
 * there. The change itself is the core's, so that the page and the record agree on what "accepted" makes of a text.
 */
export function acceptTransaction(state: EditorState, mark: AnsweredMark): Transaction | null {
  const now = editNow(state, mark);
  if (!now || whyNotAccept(now.plain.text, now.edit) !== null) return null;
  const { plain, edit } = now;
  const { from, to, insert } = changeOf(plain.text, edit);
  const [first, last] = [toDocPosition(plain, from), toDocPosition(plain, to)];
  const { tr } = state;
  return closeHistory(insert === "" ? tr.delete(first, last) : tr.insertText(insert, first, last));
}
