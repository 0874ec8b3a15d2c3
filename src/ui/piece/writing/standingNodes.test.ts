import { expect, test } from "@jest/globals";
import { getSchema } from "@tiptap/core";
import { TableKit } from "@tiptap/extension-table";
import { EditorState, NodeSelection, type Transaction } from "@tiptap/pm/state";
import type { EditorView } from "@tiptap/pm/view";
import { StarterKit } from "@tiptap/starter-kit";
import { plainText, toDocPosition, toOffset } from "@/core/text/plainText";
import { readRichDoc, type Block, type RichDoc } from "@/core/text/richDoc";
import { pictureOf, PictureNode } from "./pictureNode";
import { cardOf, documentWith, FileNode, fileOf, LinkCardNode } from "./standingNodes";
import { TypeBehind } from "./typeBehind";

const ID = "0190a0b0-1111-7222-8333-444455556666";
const paragraph = (text: string): Block => ({
  type: "paragraph",
  content: [{ type: "text", text }],
});
const STANDING: Block[] = [
  { type: "picture", attrs: { upload: ID, alt: "sky" } },
  { type: "file", attrs: { item: ID, as: "film", name: "tide.webm" } },
  {
    type: "linkCard",
    attrs: { href: "https://harbour.example/" },
    content: [{ type: "text", text: "The tide table" }],
  },
];
const DOC: RichDoc = {
  type: "doc",
  content: [paragraph("One."), ...STANDING.flatMap((block) => [block, paragraph("Next.")])],
};
const schema = getSchema([
  documentWith({ standing: true }),
  StarterKit.configure({ document: false }),
  TableKit,
  PictureNode,
  FileNode,
  LinkCardNode,
]);

// The reference is the ProseMirror library, with the very nodes the editor has.
test("the editor holds what is kept, and offsets agree with its positions", () => {
  const kept = readRichDoc(DOC, "work");
  expect(kept).toEqual(DOC);
  const node = schema.nodeFromJSON(kept);
  node.check();
  const plain = plainText(kept);
  expect(plain.text).toBe("One.\nNext.\nNext.\nThe tide table\nNext.");
  for (const line of plain.lines)
    for (let offset = line.start; offset <= line.end; offset += 1) {
      const position = toDocPosition(plain, offset);
      const said = plain.text.slice(line.start, offset);
      expect(node.textBetween(line.docStart, position, "\n", "\n")).toBe(said);
      expect(toOffset(plain, position)).toBe(offset);
    }
});

test.each(STANDING)(
  "nothing that stands by itself can be put into a list or a cell (%j)",
  (block) => {
    const within: RichDoc[] = [
      {
        type: "doc",
        content: [{ type: "bulletList", content: [{ type: "listItem", content: [block] }] }],
      },
      { type: "doc", content: [{ type: "blockquote", content: [block] }] },
    ];
    for (const doc of within) {
      expect(() => schema.nodeFromJSON(doc).check()).toThrow();
      expect(() => readRichDoc(doc, "work")).toThrow("cannot keep");
    }
  },
);

test("what is pasted is one of these only where it could be kept", () => {
  expect(fileOf({ fileHere: ID, as: "film", name: "tide" })).toEqual({
    item: ID,
    as: "film",
    name: "tide",
  });
  expect(fileOf({ fileHere: ID })).toBe(false);
  expect(fileOf({ fileHere: "../x", as: "film" })).toBe(false);
  expect(cardOf({ linkCard: "https://a.example" })).toEqual({ href: "https://a.example" });
  expect(cardOf({ linkCard: "javascript:alert(1)" })).toBe(false);
  expect(pictureOf("https://elsewhere.example/x.png", "x")).toBe(false);
  expect(pictureOf(ID, null)).toEqual({ upload: ID, alt: "" });
});

test("where nothing can stand by itself there is an editor all the same", () => {
  const plain = getSchema([
    documentWith({ standing: false }),
    StarterKit.configure({ document: false }),
    TableKit,
  ]);
  const doc: RichDoc = { type: "doc", content: [paragraph("One."), { type: "horizontalRule" }] };
  plain.nodeFromJSON(doc).check();
  expect(() => plain.nodeFromJSON(DOC).check()).toThrow();
});

test.each(["file", "picture"])("what is typed while a %s is chosen goes behind it", (type) => {
  const start = EditorState.create({ doc: schema.nodeFromJSON(DOC) });
  let at = -1;
  start.doc.forEach((node, offset) => (at = node.type.name === type ? offset : at));
  let state = start.apply(start.tr.setSelection(NodeSelection.create(start.doc, at)));
  const view = {
    get state() {
      return state;
    },
    dispatch: (tr: Transaction) => (state = state.apply(tr)),
  } as unknown as EditorView;
  const [plugin] = TypeBehind.config.addProseMirrorPlugins!.call({} as never);
  const typed = (text: string) =>
    plugin!.props.handleTextInput!.call(plugin!, view, at, at + 1, text, () => state.tr);
  expect(typed("A")).toBe(true);
  expect(state.doc.childCount).toBe(start.doc.childCount + 1);
  expect(state.doc.nodeAt(at)!.type.name).toBe(type);
  expect(state.doc.nodeAt(at + 1)!.textContent).toBe("A");
  // The cursor is behind what was typed: what follows is the editor's own.
  expect(state.selection.from).toBe(at + 3);
  expect(typed("B")).toBe(false);
});
