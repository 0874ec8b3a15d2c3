"use client";

import { useRef, useState } from "react";
import { isSheet, wholeOf, type Corners, type Point } from "@/core/pictures/perspective";
import type { ItemView } from "@/core/views/workViews";
import type { PictureJob } from "@/workers/picture.worker";
import { Button } from "../../kit/Button";
import { CheckField } from "../../kit/Field";
import { Dialog } from "../../kit/Dialog";

const CORNER_NAMES = ["top left", "top right", "bottom right", "bottom left"];

/** Cuts a photo to the four corners of the sheet, turns and lightens it. The work is done beside the page, in a worker. */
export function PhotoDialog({
  item,
  onClose,
  onDone,
}: {
  item: ItemView;
  onClose: () => void;
  onDone: (blob: Blob) => Promise<unknown>;
}) {
  const picture = useRef<HTMLImageElement>(null);
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const [corners, setCorners] = useState<Corners | null>(null);
  const [quarters, setQuarters] = useState(0);
  const [lighter, setLighter] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const grip = useRef<number | null>(null);
  const whole = size ? wholeOf(size) : null;
  const shown = corners ?? whole;

  function move(n: number, to: Point) {
    if (!size || !shown) return;
    const inside = {
      x: Math.min(size.width, Math.max(0, to.x)),
      y: Math.min(size.height, Math.max(0, to.y)),
    };
    setCorners(shown.map((p, k) => (k === n ? inside : p)) as unknown as Corners);
    setProblem(null);
  }
  const fromPage = (event: React.PointerEvent) => {
    const box = picture.current!.getBoundingClientRect();
    return {
      x: ((event.clientX - box.left) / box.width) * size!.width,
      y: ((event.clientY - box.top) / box.height) * size!.height,
    };
  };

  async function apply() {
    if (corners && !isSheet(corners))
      return setProblem(
        "These four corners make no sheet: each belongs at its own corner of the paper.",
      );
    setBusy(true);
    try {
      await onDone(await work(item.view!.href, { corners, quarters, lighter }));
      onClose();
    } catch (error) {
      setProblem(
        error instanceof Error && error.message
          ? error.message
          : "This photo could not be changed on this device. It stays as it was.",
      );
    } finally {
      setBusy(false);
    }
  }

  const changed = corners !== null || quarters !== 0 || lighter;
  return (
    <Dialog open onClose={onClose} title={`Cut, turn, lighten: ${item.name}`} wide>
      <p className="text-sm text-soft">
        Put the four corners on those of the paper; it is made straight. With the keyboard: Tab to a
        corner, then the arrow keys.
      </p>
      <div
        className="relative mx-auto my-7 w-fit touch-none select-none"
        onPointerMove={(event) => grip.current !== null && move(grip.current, fromPage(event))}
        onPointerUp={() => (grip.current = null)}
        onPointerLeave={() => (grip.current = null)}
      >
        {/* eslint-disable-next-line @next/next/no-img-element */}
        <img
          ref={picture}
          src={item.view!.href}
          alt={item.name}
          draggable={false}
          className="max-h-[52vh] w-auto"
          style={{ filter: lighter ? "brightness(1.25) contrast(1.15)" : undefined }}
          onLoad={(event) =>
            setSize({
              width: event.currentTarget.naturalWidth,
              height: event.currentTarget.naturalHeight,
            })
          }
        />
        {shown && size ? (
          <>
            <svg
              viewBox={`0 0 ${size.width} ${size.height}`}
              className="pointer-events-none absolute inset-0 size-full"
              aria-hidden="true"
            >
              <polygon
                points={shown.map((p) => `${p.x},${p.y}`).join(" ")}
                fill="none"
                stroke="var(--tide)"
                strokeWidth={Math.max(size.width, size.height) / 250}
              />
            </svg>
            {shown.map((p, n) => (
              <button
                key={n}
                type="button"
                aria-label={`Corner ${CORNER_NAMES[n]}`}
                className="absolute -ml-5.5 -mt-5.5 size-11 cursor-grab rounded-full border-2 border-tide bg-paper/50"
                style={{
                  left: `${(p.x / size.width) * 100}%`,
                  top: `${(p.y / size.height) * 100}%`,
                }}
                onPointerDown={(event) => {
                  event.preventDefault();
                  event.currentTarget.focus();
                  grip.current = n;
                }}
                onKeyDown={(event) => {
                  const step = Math.max(size.width, size.height) / (event.shiftKey ? 20 : 200);
                  const by = {
                    ArrowLeft: [-step, 0],
                    ArrowRight: [step, 0],
                    ArrowUp: [0, -step],
                    ArrowDown: [0, step],
                  }[event.key];
                  if (!by) return;
                  event.preventDefault();
                  move(n, { x: p.x + by[0]!, y: p.y + by[1]! });
                }}
              />
            ))}
          </>
        ) : null}
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button onClick={() => setQuarters((n) => (n + 1) % 4)}>
          Turn right{quarters ? ` (${quarters * 90}°)` : ""}
        </Button>
        <CheckField
          label="Lighten: white paper, dark writing"
          checked={lighter}
          onChange={(event) => setLighter(event.target.checked)}
        />
        {corners ? <Button onClick={() => setCorners(null)}>Whole picture</Button> : null}
        <span className="ml-auto flex gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button ink="tide" disabled={busy || !changed} onClick={() => void apply()}>
            {busy ? "Working …" : "Do it"}
          </Button>
        </span>
      </div>
      {problem ? (
        <p role="alert" className="mt-2 text-ember">
          ▲ {problem}
        </p>
      ) : null}
    </Dialog>
  );
}

/** A quarter turn by itself, without a dialog. */
export const turnPhoto = (href: string): Promise<Blob> =>
  work(href, { corners: null, quarters: 1, lighter: false });

async function work(href: string, job: Omit<PictureJob, "bitmap">): Promise<Blob> {
  const bitmap = await createImageBitmap(await (await fetch(href)).blob());
  const worker = new Worker(new URL("../../../workers/picture.worker.ts", import.meta.url), {
    type: "module",
  });
  try {
    return await new Promise<Blob>((resolve, reject) => {
      worker.onmessage = (event: MessageEvent<{ blob?: Blob; problem?: string }>) =>
        event.data.blob ? resolve(event.data.blob) : reject(new Error(event.data.problem));
      worker.onerror = () =>
        reject(new Error("This photo could not be changed on this device. It stays as it was."));
      worker.postMessage({ bitmap, ...job } satisfies PictureJob, [bitmap]);
    });
  } finally {
    worker.terminate();
  }
}
