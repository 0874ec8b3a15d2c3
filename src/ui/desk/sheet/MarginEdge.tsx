"use client";

import { useRef } from "react";
import { MARGIN_WIDTHS } from "@/core/desk/settings";
import { useDesk } from "../model";

const STEP = 16;
const within = (px: number) =>
  Math.round(Math.min(MARGIN_WIDTHS.most, Math.max(MARGIN_WIDTHS.least, px)));

/** The edge between the work and its margin: dragged, or moved with ← and →, it sets how wide notes are; pressed twice, as it came. */
export function MarginEdge() {
  const { own } = useDesk();
  const edge = useRef<HTMLDivElement>(null);
  const from = useRef<{ x: number; width: number } | null>(null);
  const widthNow = () =>
    edge.current?.nextElementSibling?.getBoundingClientRect().width ?? MARGIN_WIDTHS.usual;
  function keys(event: React.KeyboardEvent) {
    const by = { ArrowLeft: STEP, ArrowRight: -STEP }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    own.setMargin(within(widthNow() + by));
  }
  return (
    <div
      ref={edge}
      role="separator"
      aria-orientation="vertical"
      aria-label="Width of the margin"
      aria-valuenow={own.margin ?? MARGIN_WIDTHS.usual}
      aria-valuemin={MARGIN_WIDTHS.least}
      aria-valuemax={MARGIN_WIDTHS.most}
      tabIndex={0}
      data-arrows
      className="no-print mx-auto w-3 cursor-ew-resize touch-none border-r border-transparent hover:border-line-strong focus-visible:border-tide max-lg:invisible max-md:hidden"
      onKeyDown={keys}
      onDoubleClick={() => own.setMargin(MARGIN_WIDTHS.usual)}
      onPointerDown={(event) => {
        event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width: widthNow() };
      }}
      onPointerMove={(event) => {
        if (from.current)
          own.showMargin(within(from.current.width + (from.current.x - event.clientX)));
      }}
      onPointerUp={(event) => {
        if (from.current)
          own.setMargin(within(from.current.width + (from.current.x - event.clientX)));
        from.current = null;
      }}
    />
  );
}
