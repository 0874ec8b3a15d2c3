"use client";

import type { PDFDocumentProxy } from "pdfjs-dist";
import { useEffect, useRef, useState } from "react";
import { drawLater } from "./pdfDocuments";

const WIDTH = 76;

/** All pages small, in one strip; each is drawn when it comes into view. */
export function Thumbnails({
  pdf,
  ratio,
  onGo,
}: {
  pdf: PDFDocumentProxy;
  ratio: number;
  onGo: (page: number) => void;
}) {
  return (
    <ol
      className="mb-3 flex gap-2 overflow-x-auto border-y border-line bg-sunk p-2"
      aria-label="Small pages"
    >
      {Array.from({ length: pdf.numPages }, (_, n) => (
        <li key={n} className="shrink-0 text-center text-xs text-soft">
          <Small pdf={pdf} page={n + 1} ratio={ratio} onGo={onGo} />
        </li>
      ))}
    </ol>
  );
}

function Small({
  pdf,
  page,
  ratio,
  onGo,
}: {
  pdf: PDFDocumentProxy;
  page: number;
  ratio: number;
  onGo: (page: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(
      (entries) => entries.some((e) => e.isIntersecting) && setSeen(true),
      { rootMargin: "0px 200px" },
    );
    if (canvas.current) observer.observe(canvas.current);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    if (!seen || !canvas.current) return;
    return drawLater({ pdf, page }, canvas.current, WIDTH * 2);
  }, [page, pdf, seen]);
  return (
    <button
      type="button"
      className="cursor-pointer border border-line-strong bg-white hover:border-tide"
      onClick={() => onGo(page)}
      aria-label={`Go to page ${page}`}
    >
      <canvas ref={canvas} style={{ width: WIDTH, height: WIDTH * ratio }} />
      <span className="block bg-paper">{page}</span>
    </button>
  );
}
