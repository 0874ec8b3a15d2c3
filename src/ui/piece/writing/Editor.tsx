"use client";

import { TableKit } from "@tiptap/extension-table";
import type { Editor as TiptapEditor } from "@tiptap/core";
import { EditorContent, useEditor, useEditorState } from "@tiptap/react";
import { StarterKit } from "@tiptap/starter-kit";
import { Toolbar } from "radix-ui";
import { useState } from "react";
import { isSafeLink, type RichDoc } from "@/core/text/richDoc";
import type { AnsweredMark } from "@/core/views/views";
import { BankInEditor } from "../../comments/BankInEditor";
import { classes } from "../../kit/classes";
import { RichText } from "../../text/RichText";
import { FindBar } from "./FindBar";
import { FindExtension } from "./findPlugin";
import { gapsExtension } from "./gapPlugin";
import { marksExtension } from "./markPlugin";
import { PictureTool } from "./PictureTool";
import { PictureNode } from "./pictureNode";
import { LinkCardDialog, LinkDialog } from "./LinkDialogs";
import { PutIn, type FilesOfText } from "./PutIn";
import { documentWith, FileNode, LinkCardNode } from "./standingNodes";
import { TypeBehind } from "./typeBehind";

/** The editor holds exactly what `core/text/richDoc` can keep. */
const EXTENSIONS = [
  StarterKit.configure({
    document: false,
    code: false,
    codeBlock: false,
    strike: false,
    heading: { levels: [1, 2, 3] },
    link: { openOnClick: false, isAllowedUri: (href) => isSafeLink(href) },
  }),
  TableKit.configure({ table: { resizable: false } }),
];

export function useWritingEditor({
  doc,
  label,
  marks = [],
  pictures = false,
  files = false,
  onChange,
}: {
  doc: RichDoc;
  label: string;
  marks?: readonly AnsweredMark[];
  /** Pictures can stand in it. */ pictures?: boolean;
  /** Sounds, films, PDF and cards of links can. */ files?: boolean;
  onChange: (doc: RichDoc) => void;
}): TiptapEditor | null {
  return useEditor({
    extensions: [
      documentWith({ standing: pictures || files }),
      ...EXTENSIONS,
      FindExtension,
      TypeBehind,
      marksExtension(marks),
      gapsExtension,
      ...(pictures ? [PictureNode] : []),
      ...(files ? [FileNode, LinkCardNode] : []),
    ],
    content: doc,
    immediatelyRender: false,
    editorProps: {
      attributes: {
        class: "writing",
        "aria-label": label,
        role: "textbox",
        "aria-multiline": "true",
        spellcheck: "true",
      },
    },
    onUpdate: ({ editor, transaction }) => {
      if (transaction.docChanged) onChange(editor.getJSON() as RichDoc);
    },
  });
}

/** On a phone there is one line: what is used most, what is on where the cursor is, and the way to the rest. */
const OFTEN: readonly string[] = ["Bold", "List", "Undo"];

const TOOLS: {
  name: string;
  words: string;
  active: (e: TiptapEditor) => boolean;
  run: (e: TiptapEditor) => void;
}[] = [
  {
    name: "Bold",
    words: "Ctrl+B",
    active: (e) => e.isActive("bold"),
    run: (e) => e.chain().focus().toggleBold().run(),
  },
  {
    name: "Italic",
    words: "Ctrl+I",
    active: (e) => e.isActive("italic"),
    run: (e) => e.chain().focus().toggleItalic().run(),
  },
  {
    name: "Heading",
    words: "# and a space",
    active: (e) => e.isActive("heading"),
    run: (e) => e.chain().focus().toggleHeading({ level: 2 }).run(),
  },
  {
    name: "List",
    words: "- and a space",
    active: (e) => e.isActive("bulletList"),
    run: (e) => e.chain().focus().toggleBulletList().run(),
  },
  {
    name: "Numbers",
    words: "1. and a space",
    active: (e) => e.isActive("orderedList"),
    run: (e) => e.chain().focus().toggleOrderedList().run(),
  },
  {
    name: "Quote",
    words: "> and a space",
    active: (e) => e.isActive("blockquote"),
    run: (e) => e.chain().focus().toggleBlockquote().run(),
  },
];

const TABLE_TOOLS: { name: string; run: (e: TiptapEditor) => void }[] = [
  { name: "Row below", run: (e) => e.chain().focus().addRowAfter().run() },
  { name: "Column right", run: (e) => e.chain().focus().addColumnAfter().run() },
  { name: "Take row out", run: (e) => e.chain().focus().deleteRow().run() },
  { name: "Take column out", run: (e) => e.chain().focus().deleteColumn().run() },
  { name: "Take table out", run: (e) => e.chain().focus().deleteTable().run() },
];

type EditorProps = {
  editor: TiptapEditor | null;
  children?: React.ReactNode;
  /** Pictures can be put in; by a student into this piece, otherwise a teacher's own. */
  pictures?: boolean | { pieceId: string };
  /** Sounds, films and PDF can be put in, and links as cards. */ files?: FilesOfText;
  /** Undo that knows more than the editor does. */
  history?: { undo: () => void; redo: () => void };
  /** What to show while the editor is on its way. */
  meanwhile?: RichDoc;
  /** More tools at the end of the row. */
  tools?: React.ReactNode;
};

export function Editor({
  editor,
  children,
  pictures,
  files,
  history,
  tools,
  meanwhile,
}: EditorProps) {
  const [linking, setLinking] = useState(false);
  const [carding, setCarding] = useState(false);
  const [more, setMore] = useState(false);
  const [finding, setFinding] = useState(false);
  const state = useEditorState({
    editor,
    selector: ({ editor: e }) =>
      e
        ? {
            active: TOOLS.map((tool) => tool.active(e)),
            table: e.isActive("table"),
            card: e.isActive("linkCard"),
            link: (e.getAttributes("link").href as string | undefined) ?? "",
          }
        : null,
  });
  // Until the editor is there the text can be read.
  if (!editor)
    return meanwhile ? (
      <RichText doc={meanwhile} />
    ) : (
      <div className="min-h-64 text-soft">The editor opens …</div>
    );
  const tool = (name: string, on: boolean, title: string | undefined, run: () => void) => (
    <Toolbar.Button
      key={name}
      aria-pressed={on}
      title={title}
      onMouseDown={(event) => event.preventDefault()}
      onClick={run}
      className={classes(
        "min-h-9 cursor-pointer px-1.5 text-sm hover:bg-sunk max-sm:min-h-11",
        !more && !on && !OFTEN.includes(name) && "max-sm:hidden",
        on && "font-semibold underline decoration-tide decoration-2 underline-offset-4",
      )}
    >
      {name}
    </Toolbar.Button>
  );
  return (
    <div>
      <Toolbar.Root
        aria-label="Writing"
        className="sticky top-0 z-10 mb-4 flex flex-wrap items-center border-y border-line bg-paper"
      >
        {TOOLS.map((entry, n) =>
          tool(entry.name, state?.active[n] ?? false, entry.words, () => entry.run(editor)),
        )}
        {tool("Link", Boolean(state?.link || state?.card), undefined, () =>
          state?.card ? setCarding(true) : setLinking(true),
        )}
        {state?.table
          ? TABLE_TOOLS.map((entry) => tool(entry.name, false, undefined, () => entry.run(editor)))
          : tool("Table", false, undefined, () =>
              editor.chain().focus().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run(),
            )}
        {pictures ? (
          <span className={more ? undefined : "max-sm:hidden"}>
            <PictureTool
              editor={editor}
              pieceId={typeof pictures === "object" ? pictures.pieceId : undefined}
            />
          </span>
        ) : null}
        {files ? (
          <span className={more ? undefined : "max-sm:hidden"}>
            <PutIn editor={editor} files={files} />
          </span>
        ) : null}
        {tool("Find", finding, undefined, () => setFinding((on) => !on))}
        {tool("Undo", false, "Ctrl+Z", () =>
          history ? history.undo() : editor.chain().focus().undo().run(),
        )}
        {tool("Redo", false, "Ctrl+Shift+Z", () =>
          history ? history.redo() : editor.chain().focus().redo().run(),
        )}
        {tools ? <span className={more ? undefined : "max-sm:hidden"}>{tools}</span> : null}
        <Toolbar.Button
          aria-expanded={more}
          className="min-h-11 cursor-pointer px-1.5 text-sm text-tide sm:hidden"
          onClick={() => setMore(!more)}
        >
          {more ? "Less ▴" : "More ▾"}
        </Toolbar.Button>
        {children ? <div className="ml-auto px-2 text-sm">{children}</div> : null}
      </Toolbar.Root>
      {finding ? <FindBar editor={editor} onClose={() => setFinding(false)} /> : null}
      <BankInEditor editor={editor}>
        <EditorContent editor={editor} />
      </BankInEditor>
      {carding ? <LinkCardDialog editor={editor} onClose={() => setCarding(false)} /> : null}
      {linking ? (
        <LinkDialog editor={editor} href={state?.link ?? ""} onClose={() => setLinking(false)} />
      ) : null}
    </div>
  );
}
