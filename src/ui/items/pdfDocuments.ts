"use client";

import type { PDFDocumentProxy, PDFPageProxy } from "pdfjs-dist";

/**
 * Opened PDFs, kept for going back and opened ahead for going on. Each is opened once whoever asks; the ones not
 * asked for longest are closed, so that a hundred pieces do not stay in memory.
 */
const KEPT = 4;
const opened = new Map<string, Promise<PDFDocumentProxy>>();
const inUse = new Map<string, number>();

/** Opens a PDF, or gives the one that is open. */
export function openPdf(href: string): Promise<PDFDocumentProxy> {
  const known = opened.get(href);
  opened.delete(href);
  const opening = known ?? load(href);
  opened.set(href, opening);
  opening.catch(() => opened.delete(href));
  closeOthers();
  return opening;
}

async function load(href: string): Promise<PDFDocumentProxy> {
  const pdfjs = await import("pdfjs-dist");
  pdfjs.GlobalWorkerOptions.workerSrc = new URL(
    "pdfjs-dist/build/pdf.worker.min.mjs",
    import.meta.url,
  ).toString();
  return pdfjs.getDocument({ url: href, isEvalSupported: false, enableXfa: false }).promise;
}

/** Says that a PDF is on the page; the answer says that it is not any more. */
export function holdPdf(href: string): () => void {
  inUse.set(href, (inUse.get(href) ?? 0) + 1);
  return () => {
    const left = (inUse.get(href) ?? 1) - 1;
    if (left > 0) inUse.set(href, left);
    else inUse.delete(href);
    closeOthers();
  };
}

function closeOthers(): void {
  for (const [href, opening] of opened) {
    if (opened.size <= KEPT) return;
    if (inUse.has(href)) continue;
    opened.delete(href);
    firstPages.delete(href);
    void opening.then(
      (pdf) => pdf.loadingTask.destroy(),
      () => undefined,
    );
  }
}

/** First pages drawn ahead, at about the width of a sheet. */
const firstPages = new Map<string, HTMLCanvasElement>();
const AHEAD_WIDTH = 900;

/** Opens a PDF and draws its first page, so that going to it shows it at once. */
export async function drawAhead(href: string): Promise<void> {
  if (firstPages.has(href)) return;
  try {
    const page = await (await openPdf(href)).getPage(1);
    const canvas = document.createElement("canvas");
    await drawPage(page, canvas, AHEAD_WIDTH).promise;
    firstPages.set(href, canvas);
  } catch {
    // It will be opened when it is gone to, and say then what is wrong.
  }
}

export const drawnAhead = (href: string): HTMLCanvasElement | null => firstPages.get(href) ?? null;

/** Draws a page so wide. @param width in device pixels */
export function drawPage(page: PDFPageProxy, canvas: HTMLCanvasElement, width: number) {
  const viewport = page.getViewport({ scale: width / page.getViewport({ scale: 1 }).width });
  canvas.width = Math.max(1, Math.floor(viewport.width));
  canvas.height = Math.max(1, Math.floor(viewport.height));
  return page.render({ canvas, viewport });
}

/**
 * Draws a page as soon as it is there. @param onRatio is told its height over its width
 * @returns what ends it: nothing is drawn any more
 */
export function drawLater(
  { pdf, page }: { pdf: PDFDocumentProxy; page: number },
  canvas: HTMLCanvasElement,
  width: number,
  onRatio?: (ratio: number) => void,
): () => void {
  let task: { cancel: () => void } | null = null;
  let gone = false;
  void pdf
    .getPage(page)
    .then((found) => {
      if (gone) return undefined;
      const plain = found.getViewport({ scale: 1 });
      onRatio?.(plain.height / plain.width);
      const drawing = drawPage(found, canvas, width);
      task = drawing;
      return drawing.promise;
    })
    // Left before it was drawn.
    .catch(() => undefined);
  return () => {
    gone = true;
    task?.cancel();
  };
}
