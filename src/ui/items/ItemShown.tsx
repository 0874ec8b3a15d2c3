"use client";

import dynamic from "next/dynamic";
import { useEffect, useState, type ReactNode } from "react";
import { sayDuration } from "@/core/items/kinds";
import { isOnSide } from "@/core/marks/turn";
import type { ItemView } from "@/core/views/workViews";
import { saySize } from "../transfers/saySize";
import type { PageLayer } from "./PdfPages";
import { Surface, TurnButton } from "./Surface";
import { useTurn } from "./useTurn";

const PdfPages = dynamic(() => import("./PdfPages").then((m) => m.PdfPages), {
  ssr: false,
  loading: () => <p className="min-h-64 text-soft">The pages open …</p>,
});

/** What a file can carry over it: marks on its pages or its picture, and notes under a recording. */
export type ItemLayers = {
  page?: PageLayer;
  picture?: (ratio: number) => ReactNode;
  recording?: ReactNode;
  /** Over the picture of a film. */ frame?: (ratio: number) => ReactNode;
};

/**
 * A file of a piece as far as it can be shown: pages, a picture, sound, film, text; and always the way to fetch it
 * as it came.
 */
export function ItemShown({
  item,
  children,
  layers = {},
  zoom = 1,
}: {
  item: ItemView;
  children?: ReactNode;
  layers?: ItemLayers;
  zoom?: number;
}) {
  return (
    <figure className="my-4 min-w-0" data-item={item.id}>
      <figcaption className="mb-2 flex flex-wrap items-baseline gap-x-3 border-b border-line pb-1">
        <span className="min-w-0 break-words font-serif text-lg">{item.name}</span>
        <span className="text-sm text-soft">{sayItem(item)}</span>
        <span className="ml-auto flex flex-wrap items-baseline gap-x-3 text-sm">
          {children}
          <a href={item.original} download={item.name} className="inline-flex min-h-6 items-center">
            fetch it
          </a>
        </span>
      </figcaption>
      {item.view ? (
        <Shown item={item} view={item.view} layers={layers} zoom={zoom} />
      ) : (
        <p
          className={
            item.state === "being made"
              ? "text-soft"
              : "border-l-4 border-line-strong pl-3 text-soft"
          }
          role="status"
        >
          {item.why}
        </p>
      )}
    </figure>
  );
}

/** @example "3 pages · 120 kB", "1:02 · 0.4 MB" */
export function sayItem({ kind, pages, seconds, size }: ItemView): string {
  const what = [
    pages ? `${pages} ${pages === 1 ? "page" : "pages"}` : "",
    seconds ? sayDuration(seconds) : "",
    kind === "other" ? "file" : "",
  ].find(Boolean);
  return [what, saySize(size)].filter(Boolean).join(" · ");
}

function Shown({
  item,
  view,
  layers,
  zoom,
}: {
  item: ItemView;
  view: NonNullable<ItemView["view"]>;
  layers: ItemLayers;
  zoom: number;
}) {
  switch (view.as) {
    case "picture":
      return <Picture item={item} href={view.href} layer={layers.picture} zoom={zoom} />;
    case "pages":
      return <PdfPages href={view.href} name={item.name} layer={layers.page} zoom={zoom} />;
    case "sound":
      return (
        <>
          <audio
            controls
            preload="metadata"
            src={view.href}
            className="w-full"
            aria-label={item.name}
            data-player
          />
          {layers.recording}
        </>
      );
    case "film":
      return (
        <>
          <Film item={item} href={view.href} layer={layers.frame} />
          {layers.recording}
        </>
      );
    case "text":
      return <TextFile href={view.href} />;
  }
}

/** A picture as large as the column, or as the window is high; what lies over it keeps to its edges. */
function Picture({
  item,
  href,
  layer,
  zoom,
}: {
  item: ItemView;
  href: string;
  layer: ItemLayers["picture"];
  zoom: number;
}) {
  const ratio = item.width && item.height ? item.height / item.width : 0.75;
  const [turn, turnIt] = useTurn(item.id);
  return (
    <>
      <div className={zoom > 1 ? "overflow-auto" : undefined}>
        <Surface
          shape={ratio}
          turn={turn}
          turns={item.id}
          className="border border-line"
          style={{
            width:
              zoom !== 1
                ? `${zoom * 100}%`
                : `min(100%, calc(88vh / ${isOnSide(turn) ? 1 / ratio : ratio}))`,
          }}
        >
          {/* eslint-disable-next-line @next/next/no-img-element */}
          <img
            src={href}
            alt={item.name}
            width={item.width ?? undefined}
            height={item.height ?? undefined}
            className="absolute inset-0 h-full w-full"
            draggable={false}
          />
          {layer?.(ratio)}
        </Surface>
      </div>
      <p>
        <TurnButton what={item.name} turn={turn} onTurn={turnIt} />
      </p>
    </>
  );
}

/** A film as wide as the column, or as half the window is high; what lies over it keeps to its picture's edges. */
function Film({ item, href, layer }: { item: ItemView; href: string; layer: ItemLayers["frame"] }) {
  const [shape, setShape] = useState(item.width && item.height ? item.height / item.width : 9 / 16);
  return (
    <div
      className="relative bg-ink"
      style={{ width: `min(100%, calc(52vh / ${shape}))`, aspectRatio: `1 / ${shape}` }}
      data-surface
    >
      <video
        controls
        preload="metadata"
        src={href}
        poster={item.still ?? undefined}
        className="absolute inset-0 h-full w-full"
        aria-label={item.name}
        data-player
        onLoadedMetadata={({ currentTarget: { videoWidth, videoHeight } }) =>
          videoWidth > 0 && setShape(videoHeight / videoWidth)
        }
      />
      {layer?.(shape)}
    </div>
  );
}

function TextFile({ href }: { href: string }) {
  const [text, setText] = useState<string | null>(null);
  useEffect(() => {
    void fetch(href)
      .then((answer) => answer.text())
      .then(
        (whole) => setText(whole.slice(0, 200_000)),
        () => setText("This text could not be fetched just now."),
      );
  }, [href]);
  return (
    <pre className="max-h-[70vh] overflow-auto border border-line bg-raised p-3 text-sm whitespace-pre-wrap">
      {text ?? "…"}
    </pre>
  );
}
