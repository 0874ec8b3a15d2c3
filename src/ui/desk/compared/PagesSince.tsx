"use client";

import type { PDFDocumentProxy } from "pdfjs-dist";
import { useEffect, useRef, useState } from "react";
import type { ItemView } from "@/core/views/workViews";
import { drawLater, holdPdf, openPdf } from "../../items/pdfDocuments";
import { Button } from "../../kit/Button";
import { Overlay } from "./Overlay";

/** Pixels across a page is drawn with; it is seen no larger than half a window high. */
const ACROSS = 1100;

type Props = { before: ItemView; after: ItemView; earlier: string };

/** The pages of two files over one another, page by page: each with the one of the same number. */
export function PagesSince({ before, after, earlier }: Props) {
  const old = usePdf(before.view!.href);
  const now = usePdf(after.view!.href);
  const [page, setPage] = useState(1);
  const [ratio, setRatio] = useState(1.294);
  if (old === "failed" || now === "failed")
    return (
      <p role="alert" className="text-ember">
        ▲ These pages could not be shown just now. Both files can be fetched under “Earlier
        hand-ins”.
      </p>
    );
  if (!old || !now) return <p className="text-soft">The pages open …</p>;
  const pages = Math.max(old.numPages, now.numPages);
  return (
    <Overlay
      ratio={ratio}
      earlier={earlier}
      before={<DrawnPage pdf={old} page={page} name={`${before.name}, ${earlier}`} />}
      after={<DrawnPage pdf={now} page={page} name={`${after.name}, now`} onRatio={setRatio} />}
    >
      <p className="flex flex-wrap items-center gap-2">
        <Button small disabled={page === 1} onClick={() => setPage(page - 1)}>
          Page before
        </Button>
        <span role="status">
          page {page} of {pages}
          {sayOnly(page, old.numPages, now.numPages, earlier)}
        </span>
        <Button small disabled={page === pages} onClick={() => setPage(page + 1)}>
          Next page
        </Button>
      </p>
    </Overlay>
  );
}

function sayOnly(page: number, old: number, now: number, earlier: string): string {
  if (page > old) return ", new";
  return page > now ? `, only in ${earlier}` : "";
}

/** A document as long as it is shown; null: it opens. */
function usePdf(href: string): PDFDocumentProxy | "failed" | null {
  const [pdf, setPdf] = useState<PDFDocumentProxy | "failed" | null>(null);
  useEffect(() => {
    let gone = false;
    const release = holdPdf(href);
    openPdf(href).then(
      (opened) => !gone && setPdf(opened),
      () => !gone && setPdf("failed"),
    );
    return () => {
      gone = true;
      release();
    };
  }, [href]);
  return pdf;
}

type Drawn = {
  pdf: PDFDocumentProxy;
  page: number;
  name: string;
  onRatio?: (ratio: number) => void;
};

/** One page, white where the file has no such page. */
function DrawnPage({ pdf, page, name, onRatio }: Drawn) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const surface = canvas.current;
    if (!surface) return;
    surface.width = 1;
    surface.height = 1;
    if (page > pdf.numPages) return;
    return drawLater({ pdf, page }, surface, ACROSS, onRatio);
  }, [onRatio, page, pdf]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={`page ${page} of ${name}`}
      className="h-full w-full bg-white object-contain object-top"
    />
  );
}
