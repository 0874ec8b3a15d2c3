"use client";

import type { PDFDocumentProxy } from "pdfjs-dist";
import { useEffect, useRef, useState } from "react";

/**
 * The pages of a PDF, drawn as they come near the view, so that two hundred pages are as quick as two. The words lie over
 * the picture unseen, for selecting and for screen readers.
 */
export function PdfPages({ href, name }: { href: string; name: string }) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let gone = false;
    let opened: PDFDocumentProxy | null = null;
    void (async () => {
      try {
        const pdfjs = await import("pdfjs-dist");
        pdfjs.GlobalWorkerOptions.workerSrc = new URL("pdfjs-dist/build/pdf.worker.min.mjs", import.meta.url).toString();
        opened = await pdfjs.getDocument({ url: href, isEvalSupported: false, enableXfa: false }).promise;
        if (gone) void opened.loadingTask.destroy();
        else setPdf(opened);
      } catch {
        if (!gone) setProblem("These pages could not be shown just now. The file can be fetched.");
      }
    })();
    return () => {
      gone = true;
      void opened?.loadingTask.destroy();
    };
  }, [href]);
  if (problem) return <p role="alert" className="text-ember">▲ {problem}</p>;
  if (!pdf) return <p className="min-h-64 text-soft" role="status">The pages open …</p>;
  return (
    <div aria-label={`Pages of ${name}`} className="grid gap-4">
      {Array.from({ length: pdf.numPages }, (_, n) => (
        <PdfPage key={n} pdf={pdf} number={n + 1} of={pdf.numPages} />
      ))}
    </div>
  );
}

function PdfPage({ pdf, number, of }: { pdf: PDFDocumentProxy; number: number; of: number }) {
  const frame = useRef<HTMLElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(number <= 2);
  useEffect(() => {
    const observer = new IntersectionObserver((seen) => seen.some((s) => s.isIntersecting) && setNear(true), { rootMargin: "1200px" });
    if (frame.current) observer.observe(frame.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!near) return;
    let task: { cancel: () => void } | null = null;
    let gone = false;
    void (async () => {
      const [{ TextLayer }, page] = await Promise.all([import("pdfjs-dist"), pdf.getPage(number)]);
      if (gone || !canvas.current || !frame.current) return;
      const width = frame.current.clientWidth;
      const plain = page.getViewport({ scale: 1 });
      const scale = width / plain.width;
      const sharp = Math.min(2, window.devicePixelRatio || 1);
      const viewport = page.getViewport({ scale: scale * sharp });
      canvas.current.width = Math.floor(viewport.width);
      canvas.current.height = Math.floor(viewport.height);
      const drawing = page.render({ canvas: canvas.current, viewport });
      task = drawing;
      await drawing.promise;
      if (gone || !words.current) return;
      words.current.replaceChildren();
      words.current.style.setProperty("--total-scale-factor", String(scale));
      await new TextLayer({ textContentSource: page.streamTextContent(), container: words.current, viewport: page.getViewport({ scale }) }).render();
    })().catch(() => {
      // Left before it was drawn.
    });
    return () => {
      gone = true;
      task?.cancel();
    };
  }, [near, number, pdf]);
  return (
    <figure ref={frame} className="relative border border-line bg-white" style={{ minHeight: near ? undefined : "40rem" }}>
      <canvas ref={canvas} className="block h-auto w-full" role="img" aria-label={`page ${number} of ${of}`} />
      <div ref={words} className="pdf-words" />
      <figcaption className="border-t border-line bg-paper px-2 text-right text-sm text-soft">
        {number} / {of}
      </figcaption>
    </figure>
  );
}
