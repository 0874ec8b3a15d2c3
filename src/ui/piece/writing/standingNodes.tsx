import { mergeAttributes, Node, type Editor } from "@tiptap/core";
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from "@tiptap/react";
import { isId } from "@/core/ids";
import {
  FILES_IN_TEXT,
  hostOf,
  isSafeLink,
  type Block,
  type FileInText,
} from "@/core/text/richDoc";
import { FileHere } from "../../text/FileHere";

/**
 * What stands by itself between paragraphs stands in the document alone, as `core/text/richDoc` keeps it. Where nothing
 * can, the schema has no such group, and would not be one with its name in it.
 */
export const documentWith = ({ standing }: { standing: boolean }) =>
  Node.create({
    name: "doc",
    topNode: true,
    content: standing ? "(block | standing)+" : "block+",
  });

/** A sound, a film or a PDF of the piece; the screen around the editor draws it. */
export const FileNode = Node.create({
  name: "file",
  group: "standing",
  atom: true,
  draggable: true,
  addAttributes: () => ({ item: { default: "" }, as: { default: "sound" }, name: { default: "" } }),
  parseHTML: () => [
    {
      tag: "div[data-file-here]",
      getAttrs: (element) => fileOf(element.dataset),
    },
  ],
  renderHTML: ({ node: { attrs } }) => [
    "div",
    {
      "data-file-here": attrs.item as string,
      "data-as": attrs.as as string,
      "data-name": attrs.name as string,
    },
  ],
  addNodeView: () => ReactNodeViewRenderer(FileInEditor),
});

/**
 * What is pasted can say anything of itself: what could not be kept is not taken as one, so that saving is never refused
 * for it. False: another rule reads it.
 */
export function fileOf({ fileHere, as, name }: DOMStringMap): FileInText["attrs"] | false {
  const kind = FILES_IN_TEXT.find((known) => known === as);
  return isId(fileHere) && kind ? { item: fileHere, as: kind, name: name ?? "" } : false;
}
export const cardOf = ({ linkCard = "" }: DOMStringMap): { href: string } | false =>
  isSafeLink(linkCard) && { href: linkCard };

const ACT =
  "inline-flex min-h-7 cursor-pointer items-center px-1 text-sm text-tide underline max-sm:min-h-11";

function FileInEditor({ node, editor, getPos, deleteNode, selected }: NodeViewProps) {
  const attrs = node.attrs as FileInText["attrs"];
  const move = (by: -1 | 1) => {
    const at = getPos();
    if (at !== undefined) moveBlock(editor, at, by);
  };
  return (
    <NodeViewWrapper
      className={selected ? "outline-2 outline-offset-4 outline-tide" : undefined}
      contentEditable={false}
    >
      <FileHere attrs={attrs} />
      <p className="flex flex-wrap gap-x-4 font-sans">
        <button
          type="button"
          className={ACT}
          aria-label={`Up: ${attrs.name}`}
          onClick={() => move(-1)}
        >
          Up
        </button>
        <button
          type="button"
          className={ACT}
          aria-label={`Down: ${attrs.name}`}
          onClick={() => move(1)}
        >
          Down
        </button>
        <button type="button" className={ACT} onClick={deleteNode}>
          Take it out of the text
        </button>
      </p>
    </NodeViewWrapper>
  );
}

/** Lets a block change places with the one before or behind it. */
function moveBlock(editor: Editor, at: number, by: -1 | 1): void {
  const { doc, tr } = editor.state;
  const index = doc.resolve(at).index(0);
  const other = index + by;
  if (other < 0 || other >= doc.childCount) return;
  const [first, second] = [doc.child(Math.min(index, other)), doc.child(Math.max(index, other))];
  const from = by < 0 ? at - first.nodeSize : at;
  editor.view.dispatch(
    tr.replaceWith(from, from + first.nodeSize + second.nodeSize, [second, first]),
  );
}

/** A link that stands by itself: its words are a line of the text, where it leads stands under them. */
export const LinkCardNode = Node.create({
  name: "linkCard",
  group: "standing",
  content: "inline*",
  marks: "bold italic underline",
  defining: true,
  addAttributes: () => ({ href: { default: "" } }),
  parseHTML: () => [
    {
      tag: "p[data-link-card]",
      getAttrs: (element) => cardOf(element.dataset),
      priority: 60,
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => {
    const href = node.attrs.href as string;
    const own = { class: "link-card", "data-link-card": href, "data-host": hostOf(href) };
    return ["p", mergeAttributes({ title: HTMLAttributes.title as string }, own), 0];
  },
});

/** Puts a block behind the one the cursor is in, or in the place of an empty paragraph; writing goes on after it. */
export function putBlock(editor: Editor, block: Block): void {
  const { $from } = editor.state.selection;
  const top = $from.depth === 0 ? null : $from.node(1);
  const empty = top?.type.name === "paragraph" && top.content.size === 0;
  const after = top ? $from.after(1) : $from.pos;
  const at = empty ? { from: $from.before(1), to: after } : after;
  editor
    .chain()
    .focus()
    .insertContentAt(at, [block, { type: "paragraph" }])
    .run();
}
