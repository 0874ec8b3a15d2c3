"use client";

import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import dynamic from "next/dynamic";
import { useRef, useState } from "react";
import type { ItemView, PartView } from "@/core/views/workViews";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { sayDrag } from "../../kit/sayDrag";
import { scalePicture } from "../../transfers/scalePicture";
import { TransferLines } from "../../transfers/TransferLines";
import { sayProblem } from "../../client";
import { TakenOut, type Items } from "./useItems";
import { turnPhoto } from "./PhotoDialog";

const PhotoDialog = dynamic(() => import("./PhotoDialog").then((m) => m.PhotoDialog), {
  ssr: false,
});

/** Photos of paper as the pages of a piece: taken or chosen, put in order, turned, cut straight, lightened. */
export function PhotosPart({ part, items }: { part: PartView; items: Items }) {
  const pages = items.of(part.id);
  const camera = useRef<HTMLInputElement>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const [changing, setChanging] = useState<ItemView | null>(null);
  const [said, setSaid] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { keyboardCodes: { start: [], cancel: ["Escape"], end: [] } }),
  );

  async function take(files: FileList | null) {
    for (const file of [...(files ?? [])]) {
      const { blob, name } = await scalePicture(file);
      await items.transfers.add(part.id, blob, name);
    }
  }
  function move(item: ItemView, to: number) {
    const others = pages.filter((p) => p.id !== item.id);
    const place = Math.min(others.length, Math.max(0, to));
    void items.order(
      part.id,
      [...others.slice(0, place), item, ...others.slice(place)].map((p) => p.id),
    );
    setSaid(`Page ${place + 1} of ${pages.length}`);
  }
  function dropped({ active, over }: DragEndEvent) {
    const item = pages.find((p) => p.id === active.id);
    const target = pages.findIndex((p) => p.id === over?.id);
    if (item && target >= 0) move(item, target);
  }
  async function turn(item: ItemView) {
    setProblem(null);
    try {
      await items.transfers.add(part.id, await turnPhoto(item.view!.href), item.name, item.id);
    } catch (error) {
      setProblem(error instanceof Error && error.message ? error.message : sayProblem(error));
    }
  }

  const pageName = (id: string) => `page ${pages.findIndex((p) => p.id === id) + 1}`;
  return (
    <div>
      <div className="flex flex-wrap gap-3">
        <input
          ref={camera}
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          tabIndex={-1}
          aria-label="Take a photo"
          onChange={(event) => void take(event.target.files).then(() => (event.target.value = ""))}
        />
        <input
          ref={chooser}
          type="file"
          accept="image/*,.heic,.heif"
          multiple
          className="sr-only"
          tabIndex={-1}
          aria-label="Choose photos"
          onChange={(event) => void take(event.target.files).then(() => (event.target.value = ""))}
        />
        <Button
          ink={pages.length === 0 ? "tide" : "plain"}
          className="max-sm:min-h-11"
          onClick={() => camera.current?.click()}
        >
          Take a photo
        </Button>
        <Button className="max-sm:min-h-11" onClick={() => chooser.current?.click()}>
          Choose photos
        </Button>
        <p className="self-center text-sm text-soft">
          JPEG, PNG, WebP or HEIC. Place and camera are taken out.
        </p>
      </div>
      <TransferLines
        list={items.transfers.list.filter((t) => t.partId === part.id)}
        onStop={(id) => void items.transfers.stop(id)}
      />
      {problem ? (
        <p role="alert" className="my-2 text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <TakenOut items={items} partId={part.id} />
      <p className="sr-only" role="status">
        {said}
      </p>
      <DndContext sensors={sensors} onDragEnd={dropped} accessibility={sayDrag(pageName, pageName)}>
        <ol
          className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(min(13rem,100%),1fr))] gap-4"
          aria-label="Pages, in order"
        >
          {pages.map((page, n) => (
            <Page
              key={page.id}
              page={page}
              number={n + 1}
              of={pages.length}
              onMove={(by) => move(page, n + by)}
              onTurn={() => void turn(page)}
              onChange={() => setChanging(page)}
              onRestore={page.madeFrom ? () => void items.restore(page) : null}
              onTakeOut={() => void items.takeOut(page)}
            />
          ))}
        </ol>
      </DndContext>
      {changing ? (
        <PhotoDialog
          item={changing}
          onClose={() => setChanging(null)}
          onDone={(blob) => items.transfers.add(part.id, blob, changing.name, changing.id)}
        />
      ) : null}
    </div>
  );
}

type PageActs = {
  onMove: (by: number) => void;
  onTurn: () => void;
  onChange: () => void;
  onRestore: (() => void) | null;
  onTakeOut: () => void;
};

function Page({
  page,
  number,
  of,
  onMove,
  onTurn,
  onChange,
  onRestore,
  onTakeOut,
}: { page: ItemView; number: number; of: number } & PageActs) {
  const { setNodeRef: handle, listeners, isDragging, transform } = useDraggable({ id: page.id });
  const { setNodeRef: target, isOver, active } = useDroppable({ id: page.id });
  const act =
    "min-h-9 max-sm:min-h-11 cursor-pointer px-2 text-sm text-tide hover:bg-sunk hover:underline disabled:text-soft disabled:no-underline disabled:cursor-default";
  return (
    <li
      ref={target}
      className={classes(
        "border bg-raised",
        isOver && active?.id !== page.id ? "border-tide" : "border-line-strong",
        isDragging && "opacity-60 shadow-lifted",
      )}
      style={
        transform
          ? {
              transform: `translate(${transform.x}px, ${transform.y}px)`,
              zIndex: 20,
              position: "relative",
            }
          : undefined
      }
    >
      <div ref={handle} {...listeners} className="cursor-grab touch-manipulation">
        {/* eslint-disable-next-line @next/next/no-img-element */}
        <img
          src={page.view?.href}
          alt={`Page ${number}: ${page.name}`}
          draggable={false}
          className="h-52 w-full bg-sunk object-contain"
        />
      </div>
      <div className="border-t border-line px-2 py-1">
        <p className="flex items-baseline justify-between gap-2 text-sm">
          <strong>
            page {number} of {of}
          </strong>
          <span className="min-w-0 truncate text-soft">{page.name}</span>
        </p>
        <div className="-mx-2 flex flex-wrap">
          <button
            type="button"
            className={act}
            disabled={number === 1}
            onClick={() => onMove(-1)}
            aria-label={`Page ${number} earlier`}
          >
            ← earlier
          </button>
          <button
            type="button"
            className={act}
            disabled={number === of}
            onClick={() => onMove(1)}
            aria-label={`Page ${number} later`}
          >
            later →
          </button>
          <button type="button" className={act} onClick={onTurn} aria-label={`Turn page ${number}`}>
            turn
          </button>
          <button
            type="button"
            className={act}
            onClick={onChange}
            aria-label={`Cut or lighten page ${number}`}
          >
            cut, lighten
          </button>
          {onRestore ? (
            <button
              type="button"
              className={act}
              onClick={onRestore}
              aria-label={`Page ${number} as it was taken`}
            >
              as taken
            </button>
          ) : null}
          <button
            type="button"
            className={act}
            onClick={onTakeOut}
            aria-label={`Take page ${number} out`}
          >
            take out
          </button>
        </div>
      </div>
    </li>
  );
}
