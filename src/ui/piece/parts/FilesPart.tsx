"use client";

import { useRef, useState } from "react";
import { sayFileTypes } from "@/core/handouts/parts";
import { megabytes } from "@/core/items/kinds";
import type { PartView } from "@/core/views/workViews";
import { ItemShown } from "../../items/ItemShown";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { TransferLines } from "../../transfers/TransferLines";
import { TakenOut, type Items } from "./useItems";

/** Files of the kinds that were asked for: chosen or dropped here, shown as far as they can be. */
export function FilesPart({
  part,
  items,
  accept,
}: {
  part: PartView;
  items: Items;
  accept?: string;
}) {
  const chooser = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const own = items.of(part.id);
  const { limits, used } = items.room;
  async function take(files: Iterable<File>) {
    for (const file of files) await items.transfers.add(part.id, file, file.name);
  }
  return (
    <div>
      <div
        className={classes(
          "flex flex-wrap items-center gap-3 border border-dashed px-4 py-3",
          over ? "border-tide bg-tide-wash" : "border-line-strong",
        )}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          void take([...event.dataTransfer.files]);
        }}
      >
        <input
          ref={chooser}
          type="file"
          multiple
          accept={accept}
          className="sr-only"
          tabIndex={-1}
          aria-label={`Choose files: ${part.label || part.kind}`}
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            event.target.value = "";
            void take(files);
          }}
        />
        <Button
          ink={own.length === 0 && part.kind === "files" ? "tide" : "plain"}
          className="max-sm:min-h-11"
          onClick={() => chooser.current?.click()}
        >
          Choose a file
        </Button>
        <p className="min-w-0 flex-1 text-sm text-soft">
          {part.kind === "files"
            ? `${sayFileTypes(part.types)[0]!.toUpperCase()}${sayFileTypes(part.types).slice(1)}. `
            : ""}
          Up to {megabytes(limits.file)} a file,{" "}
          {megabytes(
            Math.max(0, Math.min(limits.piece - used.piece, limits.student - used.student)),
          )}{" "}
          left for this piece.
        </p>
      </div>
      <TransferLines
        list={items.transfers.list.filter((t) => t.partId === part.id)}
        onStop={(id) => void items.transfers.stop(id)}
      />
      <TakenOut items={items} partId={part.id} />
      {own.map((item) => (
        <ItemShown key={item.id} item={item}>
          <button
            type="button"
            className="cursor-pointer text-tide underline max-sm:min-h-11"
            onClick={() => void items.takeOut(item)}
          >
            take it out
          </button>
        </ItemShown>
      ))}
    </div>
  );
}
