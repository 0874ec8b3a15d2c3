"use client";

import dynamic from "next/dynamic";
import { useEffect, useState } from "react";
import { sayDuration } from "@/core/items/kinds";
import type { ItemView } from "@/core/views/workViews";
import { saySize } from "../uploads/saySize";

const PdfPages = dynamic(() => import("./PdfPages").then((m) => m.PdfPages), { ssr: false, loading: () => <p className="min-h-64 text-soft">The pages open …</p> });

/** A file of a piece as far as it can be shown: pages, a picture, sound, film, text; and always the way to fetch it as it came. */
export function ItemShown({ item, children }: { item: ItemView; children?: React.ReactNode }) {
  return (
    <figure className="my-4 min-w-0" data-item={item.id}>
      <figcaption className="mb-2 flex flex-wrap items-baseline gap-x-3 border-b border-line pb-1">
        <span className="min-w-0 break-words font-serif text-lg">{item.name}</span>
        <span className="text-sm text-soft">{sayItem(item)}</span>
        <span className="ml-auto flex flex-wrap items-baseline gap-x-3 text-sm">
          {children}
          <a href={item.original} download={item.name}>
            fetch it
          </a>
        </span>
      </figcaption>
      {item.view ? <Shown item={item} view={item.view} /> : <p className={item.state === "being made" ? "text-soft" : "border-l-4 border-line-strong pl-3 text-soft"} role="status">{item.why}</p>}
    </figure>
  );
}

/** @example "3 pages · 120 kB", "1:02 · 0.4 MB" */
export function sayItem({ kind, pages, seconds, size }: ItemView): string {
  const what = pages ? `${pages} ${pages === 1 ? "page" : "pages"}` : seconds ? sayDuration(seconds) : kind === "other" ? "file" : "";
  return [what, saySize(size)].filter(Boolean).join(" · ");
}

function Shown({ item, view }: { item: ItemView; view: NonNullable<ItemView["view"]> }) {
  switch (view.as) {
    case "picture":
      // eslint-disable-next-line @next/next/no-img-element
      return <img src={view.href} alt={item.name} width={item.width ?? undefined} height={item.height ?? undefined} loading="lazy" className="h-auto max-h-[90vh] w-auto max-w-full border border-line" />;
    case "pages":
      return <PdfPages href={view.href} name={item.name} />;
    case "sound":
      return <audio controls preload="metadata" src={view.href} className="w-full" aria-label={item.name} />;
    case "film":
      return <video controls preload="metadata" src={view.href} poster={item.still ?? undefined} className="max-h-[70vh] w-full bg-ink" aria-label={item.name} />;
    case "text":
      return <TextFile href={view.href} />;
  }
}

function TextFile({ href }: { href: string }) {
  const [text, setText] = useState<string | null>(null);
  useEffect(() => {
    void fetch(href).then((answer) => answer.text()).then((whole) => setText(whole.slice(0, 200_000)), () => setText("This text could not be fetched just now."));
  }, [href]);
  return <pre className="max-h-[70vh] overflow-auto border border-line bg-raised p-3 text-sm whitespace-pre-wrap">{text ?? "…"}</pre>;
}
