"use client";

import type { PDFDocumentProxy } from "pdfjs-dist";
import { memo, useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import { isOnSide } from "@/core/marks/turn";
import { joinPage } from "@/core/text/pageText";
import { Button } from "../kit/Button";
import { drawnAhead, drawPage, holdPdf, openPdf } from "./pdfDocuments";
import { Surface, TurnButton } from "./Surface";
import { Thumbnails } from "./Thumbnails";
import { useTurn } from "./useTurn";

/** What lies over a page: given its number and its height over its width. */
export type PageLayer = (page: number, ratio: number) => ReactNode;

/** Pages come near the view this far ahead, and are let go when they are this far away (in heights of the window). */
const NEAR = "120%";
const FAR = "500%";
/** Milliseconds a page stays near before it is drawn. */
const SETTLE = 90;

/**
 * The pages of a PDF, drawn as they come near the view and let go when they are far, so that two hundred pages are
 * as quick as two. The words lie over the picture unseen, for selecting and for screen readers.
 *
 * @param zoom 1: as wide as the column
 */
export function PdfPages({
  href,
  name,
  layer,
  zoom = 1,
}: {
  href: string;
  name: string;
  layer?: PageLayer;
  zoom?: number;
}) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [ratio, setRatio] = useState(1.294);
  const [problem, setProblem] = useState<string | null>(null);
  const [strip, setStrip] = useState(false);
  const pages = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let gone = false;
    const release = holdPdf(href);
    void (async () => {
      try {
        const opened = await openPdf(href);
        const { width, height } = (await opened.getPage(1)).getViewport({ scale: 1 });
        if (gone) return;
        // What a page not looked at yet is like is guessed from the first.
        setRatio(height / width);
        setPdf(opened);
      } catch {
        if (!gone) setProblem("These pages could not be shown just now. The file can be fetched.");
      }
    })();
    return () => {
      gone = true;
      release();
    };
  }, [href]);
  const goTo = (page: number) =>
    pages.current?.querySelector(`[data-page="${page}"]`)?.scrollIntoView({ block: "start" });
  if (problem)
    return (
      <p role="alert" className="text-ember">
        ▲ {problem}
      </p>
    );
  if (!pdf) return <Ahead href={href} />;
  return (
    <div>
      {pdf.numPages > 1 ? (
        <div className="mb-2 flex flex-wrap items-center gap-2 text-sm">
          <form
            className="flex items-center gap-1.5"
            onSubmit={(event) => {
              event.preventDefault();
              goTo(
                Math.min(
                  pdf.numPages,
                  Math.max(1, Number(new FormData(event.currentTarget).get("page")) || 1),
                ),
              );
              // The keys work again.
              event.currentTarget.querySelector("input")?.blur();
            }}
          >
            <label className="text-soft">
              Go to page{" "}
              <input
                name="page"
                inputMode="numeric"
                className="w-14 border border-line-strong bg-raised px-1"
                aria-label={`Go to page, 1 to ${pdf.numPages}`}
              />
            </label>
            <span className="text-soft">of {pdf.numPages}</span>
          </form>
          <Button small ink="quiet" aria-pressed={strip} onClick={() => setStrip((on) => !on)}>
            {strip ? "Without small pages" : "Small pages"}
          </Button>
        </div>
      ) : null}
      {strip ? <Thumbnails pdf={pdf} ratio={ratio} onGo={goTo} /> : null}
      <div className={zoom > 1 ? "overflow-x-auto" : undefined}>
        <div
          ref={pages}
          aria-label={`Pages of ${name}`}
          role="group"
          className="grid gap-4"
          style={{ width: `${zoom * 100}%` }}
        >
          {Array.from({ length: pdf.numPages }, (_, n) => (
            <PdfPage
              key={n}
              pdf={pdf}
              href={href}
              name={name}
              number={n + 1}
              of={pdf.numPages}
              guess={ratio}
              layer={layer}
              zoom={zoom}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

/** The first page as it was drawn ahead, while the file opens. */
function Ahead({ href }: { href: string }) {
  const place = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const drawn = drawnAhead(href);
    if (!drawn || !place.current) return;
    drawn.className = "block h-auto w-full border border-line";
    place.current.replaceChildren(drawn);
  }, [href]);
  return (
    <div ref={place} data-page="1" className="min-h-64 text-soft" role="status">
      The pages open …
    </div>
  );
}

type PageProps = {
  pdf: PDFDocumentProxy;
  href: string;
  name: string;
  number: number;
  of: number;
  guess: number;
  layer: PageLayer | undefined;
  zoom: number;
};

const PdfPage = memo(function PdfPage({
  pdf,
  href,
  name,
  number,
  of,
  guess,
  layer,
  zoom,
}: PageProps) {
  const turns = `${href} ${number}`;
  const [turn, turnIt] = useTurn(turns);
  const frame = useRef<HTMLDivElement>(null);
  const onSide = isOnSide(turn);
  const canvas = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(number === 1);
  const [ratio, setRatio] = useState<number | null>(null);
  useEffect(() => {
    if (!frame.current) return;
    const root = frame.current.closest("[data-scroll]");
    const coming = new IntersectionObserver(
      (seen) => seen.some((s) => s.isIntersecting) && setNear(true),
      { root, rootMargin: `${NEAR} 0px` },
    );
    const leaving = new IntersectionObserver(
      (seen) => seen.every((s) => !s.isIntersecting) && setNear(false),
      { root, rootMargin: `${FAR} 0px` },
    );
    coming.observe(frame.current);
    leaving.observe(frame.current);
    return () => {
      coming.disconnect();
      leaving.disconnect();
    };
  }, []);
  useEffect(() => {
    const surface = canvas.current;
    const over = words.current;
    if (!near || !surface || !over || !frame.current) return;
    let task: { cancel: () => void; promise: Promise<unknown> } | null = null;
    let gone = false;
    const ahead = number === 1 ? drawnAhead(href) : null;
    if (ahead && surface.width <= 300) {
      surface.width = ahead.width;
      surface.height = ahead.height;
      surface.getContext("2d")?.drawImage(ahead, 0, 0);
    }
    void (async () => {
      // What is scrolled past at once is not drawn at all.
      if (number > 1) await new Promise((resolve) => setTimeout(resolve, SETTLE));
      if (gone) return;
      const [{ TextLayer }, page] = await Promise.all([import("pdfjs-dist"), pdf.getPage(number)]);
      if (gone || !frame.current) return;
      const plain = page.getViewport({ scale: 1 });
      setRatio(plain.height / plain.width);
      const width = frame.current.clientWidth;
      const fresh = document.createElement("canvas");
      task = drawPage(page, fresh, width * Math.min(2, window.devicePixelRatio || 1));
      await task.promise;
      if (gone) return;
      surface.width = fresh.width;
      surface.height = fresh.height;
      surface.getContext("2d")?.drawImage(fresh, 0, 0);
      const content = await page.getTextContent();
      if (gone) return;
      over.replaceChildren();
      over.style.setProperty("--total-scale-factor", String(width / plain.width));
      const textLayer = new TextLayer({
        textContentSource: content,
        container: over,
        viewport: page.getViewport({ scale: width / plain.width }),
      });
      await textLayer.render();
      // Each run knows where it begins in the page's text, so that a selection can be read back as a range.
      const runs = content.items.flatMap((item) => ("str" in item ? [item] : []));
      const { text, starts } = joinPage(runs);
      textLayer.textDivs.forEach((div, n) => (div.dataset.run = String(starts[n] ?? 0)));
      pageTexts.set(over, text);
    })().catch(() => {
      // Left before it was drawn.
    });
    return () => {
      gone = true;
      task?.cancel();
      // Let go: a drawn page of a large screen holds megabytes.
      surface.width = 1;
      surface.height = 1;
      over.replaceChildren();
    };
  }, [href, near, number, onSide, pdf, zoom]);
  const shape = ratio ?? guess;
  return (
    <figure data-page={number} className="scroll-mt-4 border border-line bg-white">
      <Surface surfaceRef={frame} shape={shape} turn={turn} turns={turns}>
        <canvas
          ref={canvas}
          width={1}
          height={1}
          className="absolute inset-0 h-full w-full"
          role="img"
          aria-label={`page ${number} of ${of}`}
        />
        <div ref={words} className="pdf-words" data-words />
        {layer?.(number, shape)}
      </Surface>
      <figcaption className="flex items-baseline justify-end gap-3 border-t border-line bg-paper px-2 text-sm text-soft">
        <TurnButton what={`page ${number} of ${name}`} turn={turn} onTurn={turnIt} />
        {number} / {of}
      </figcaption>
    </figure>
  );
});

/** The text of each page that is drawn, by the element its words lie in. */
const pageTexts = new WeakMap<Element, string>();
export const textOfPage = (words: Element): string => pageTexts.get(words) ?? "";
