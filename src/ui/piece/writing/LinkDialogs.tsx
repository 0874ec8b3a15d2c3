"use client";

import type { Editor as TiptapEditor } from "@tiptap/core";
import { useState } from "react";
import { isSafeLink } from "@/core/text/richDoc";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TextField } from "../../kit/Field";
import { putBlock } from "./standingNodes";

const NO_LINK = "A link begins with https://, http:// or mailto: and has no spaces.";

/** A link on the words that are selected, or the address itself where none are. */
export function LinkDialog({
  editor,
  href,
  onClose,
}: {
  editor: TiptapEditor;
  href: string;
  onClose: () => void;
}) {
  const [value, setValue] = useState(href || "https://");
  const [fault, setFault] = useState<string>();
  function set() {
    if (!isSafeLink(value)) return setFault(NO_LINK);
    const { empty } = editor.state.selection;
    if (empty && !href)
      editor
        .chain()
        .focus()
        .insertContent({
          type: "text",
          text: value,
          marks: [{ type: "link", attrs: { href: value } }],
        })
        .run();
    else editor.chain().focus().extendMarkRange("link").setLink({ href: value }).run();
    onClose();
  }
  return (
    <Dialog open onClose={onClose} title="Link">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          set();
        }}
      >
        <TextField
          label="Address"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          error={fault}
          autoFocus
        />
        <div className="mt-4 flex justify-end gap-2">
          {href ? (
            <Button
              onClick={() => {
                editor.chain().focus().extendMarkRange("link").unsetLink().run();
                onClose();
              }}
            >
              Take the link out
            </Button>
          ) : null}
          <Button ink="tide" type="submit">
            Set the link
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** A new card, or another address for the one the cursor is in. */
export function LinkCardDialog({ editor, onClose }: { editor: TiptapEditor; onClose: () => void }) {
  const there = editor.isActive("linkCard");
  const [href, setHref] = useState(
    there ? (editor.getAttributes("linkCard").href as string) : "https://",
  );
  const [words, setWords] = useState("");
  const [fault, setFault] = useState<string>();
  function set() {
    const address = href.trim();
    if (!isSafeLink(address)) return setFault(NO_LINK);
    if (there) editor.chain().focus().updateAttributes("linkCard", { href: address }).run();
    else
      putBlock(editor, {
        type: "linkCard",
        attrs: { href: address },
        content: [{ type: "text", text: words.trim() || address }],
      });
    onClose();
  }
  return (
    <Dialog open onClose={onClose} title="A link, as a card">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          set();
        }}
      >
        <TextField
          label="Address"
          value={href}
          onChange={(event) => setHref(event.target.value)}
          error={fault}
          autoFocus
        />
        {there ? null : (
          <TextField
            label="What it is"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            hint="These words stand in your text; you can change them there"
          />
        )}
        <div className="flex justify-end">
          <Button ink="tide" type="submit">
            {there ? "Change the address" : "Put it in"}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
