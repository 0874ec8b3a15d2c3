"use client";

import type { Editor as TiptapEditor } from "@tiptap/core";
import { Toolbar } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { TextField } from "../../kit/Field";
import { forWriting, useUpload } from "../../uploads/useUpload";
import { putBlock } from "./standingNodes";

/** Sends a picture and puts it where the cursor is; what it shows is asked for, so that everyone can know. */
export function PictureTool({ editor, pieceId }: { editor: TiptapEditor; pieceId?: string }) {
  const picker = useRef<HTMLInputElement>(null);
  const upload = useUpload(pieceId ? forWriting(pieceId) : undefined);
  const sending = useRef(upload.send);
  const [asked, setAsked] = useState<{ id: string; name: string } | null>(null);
  const [alt, setAlt] = useState("");
  useEffect(() => {
    sending.current = upload.send;
  });
  // Pictures that are pasted or dropped into the text go the same way.
  useEffect(() => {
    const dom = editor.view.dom;
    const take = (event: ClipboardEvent | DragEvent) => {
      const data = "clipboardData" in event ? event.clipboardData : event.dataTransfer;
      const files = [...(data?.files ?? [])].filter((file) => file.type.startsWith("image/"));
      if (files.length === 0) return;
      event.preventDefault();
      event.stopPropagation();
      void sending.current(files.slice(0, 1)).then(([file]) => file && setAsked(file));
    };
    dom.addEventListener("paste", take, true);
    dom.addEventListener("drop", take, true);
    return () => {
      dom.removeEventListener("paste", take, true);
      dom.removeEventListener("drop", take, true);
    };
  }, [editor]);
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept="image/*"
        className="sr-only"
        tabIndex={-1}
        aria-label="Picture to put in"
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          void upload.send(files).then(([file]) => file && setAsked(file));
        }}
      />
      <Toolbar.Button
        onClick={() => picker.current?.click()}
        disabled={upload.busy}
        className="min-h-9 cursor-pointer px-1.5 text-sm hover:bg-sunk max-sm:min-h-11"
      >
        {upload.busy ? "Sending …" : "Picture"}
      </Toolbar.Button>
      {upload.problem ? (
        <span role="alert" className="text-sm text-ember">
          ▲ {upload.problem}
        </span>
      ) : null}
      <Dialog open={asked !== null} onClose={() => setAsked(null)} title="Picture">
        <form
          onSubmit={(event) => {
            event.preventDefault();
            event.stopPropagation();
            if (asked) putBlock(editor, { type: "picture", attrs: { upload: asked.id, alt } });
            setAsked(null);
            setAlt("");
          }}
        >
          <TextField
            label="What does it show?"
            value={alt}
            onChange={(event) => setAlt(event.target.value)}
            hint="For those who cannot see it"
            autoFocus
          />
          <div className="mt-4 flex justify-end">
            <Button ink="tide" type="submit">
              Put it in
            </Button>
          </div>
        </form>
      </Dialog>
    </>
  );
}
