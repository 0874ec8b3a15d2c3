"use client";

import type { Editor as TiptapEditor } from "@tiptap/core";
import { DropdownMenu, Toolbar } from "radix-ui";
import { useRef, useState } from "react";
import type { FileInTextKind } from "@/core/text/richDoc";
import { Dialog } from "../../kit/Dialog";
import { Recorder } from "../../voice/recorder/Recorder";
import { nameRecording } from "../parts/nameRecording";
import type { Items } from "../parts/useItems";
import { LinkCardDialog } from "./LinkDialogs";
import { putBlock } from "./standingNodes";

const ITEM = "cursor-pointer px-4 py-2 outline-none data-highlighted:bg-sunk max-sm:py-3";

export type FilesOfText = { pieceId: string; partId: string; items: Items };
type Asked = "sound" | "film" | "link" | null;

/** What can stand in the writing beside words and pictures: recorded here or brought, and a link as a card. */
export function PutIn({ editor, files }: { editor: TiptapEditor; files: FilesOfText }) {
  const [asked, setAsked] = useState<Asked>(null);
  const picker = useRef<HTMLInputElement>(null);
  const { partId, items } = files;
  async function send(blob: Blob, name: string, as: FileInTextKind) {
    const item = await items.transfers.add(partId, blob, name);
    putBlock(editor, { type: "file", attrs: { item, as, name } });
  }
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept="audio/*,video/*,application/pdf"
        className="sr-only"
        tabIndex={-1}
        aria-label="Sound, film or PDF to put in"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = "";
          if (file) void send(file, file.name, kindOf(file.type));
        }}
      />
      <DropdownMenu.Root modal={false}>
        <Toolbar.Button asChild>
          <DropdownMenu.Trigger className="min-h-9 cursor-pointer px-1.5 text-sm hover:bg-sunk max-sm:min-h-11">
            Put in ▾
          </DropdownMenu.Trigger>
        </Toolbar.Button>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            className="z-50 min-w-56 border border-line-strong bg-raised py-1 shadow-lifted"
            // A dialog that was asked for has the focus; otherwise one writes on.
            onCloseAutoFocus={(event) => event.preventDefault()}
          >
            <DropdownMenu.Item className={ITEM} onSelect={() => setAsked("sound")}>
              A sound, recorded now
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => setAsked("film")}>
              A film, recorded now
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => picker.current?.click()}>
              A sound, film or PDF I have
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => setAsked("link")}>
              A link, as a card
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {asked === "link" ? <LinkCardDialog editor={editor} onClose={() => setAsked(null)} /> : null}
      {asked === "sound" || asked === "film" ? (
        <Dialog open onClose={() => setAsked(null)} title={asked === "film" ? "A film" : "A sound"}>
          <Recorder
            kind={asked}
            place={`${files.pieceId}/${partId}`}
            mostSeconds={items.room.limits.recordingMinutes * 60}
            onKeep={async ({ blob }) => {
              setAsked(null);
              await send(blob, nameRecording(asked, blob.type, ""), asked);
            }}
          />
        </Dialog>
      ) : null}
    </>
  );
}

/** By what the browser says it is; the server looks into it, and what it is then is what is shown. */
function kindOf(mediaType: string): FileInTextKind {
  if (mediaType.startsWith("video/")) return "film";
  return mediaType.startsWith("audio/") ? "sound" : "pages";
}
