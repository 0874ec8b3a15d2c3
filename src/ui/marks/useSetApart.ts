"use client";

import { useLayoutEffect, useRef } from "react";
import { setApart } from "@/core/marks/crowd";

/**
 * The ref of a layer of signs; signs (`[data-mark]`) that would cover each other on it are drawn beside where they
 * belong. By their size as drawn: a stamp is wider than a pin, and on a phone both are larger. Done to the elements and
 * not by a state: it follows every drawing and every change of size without a second one.
 */
export function useSetApart() {
  const layerRef = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const layer = layerRef.current;
    if (!layer) return;
    const observer = new ResizeObserver(() => placeSigns(layer));
    observer.observe(layer);
    return () => observer.disconnect();
  }, []);
  useLayoutEffect(() => {
    if (layerRef.current) placeSigns(layerRef.current);
  });
  return layerRef;
}

function placeSigns(layer: HTMLElement): void {
  const signs = [...layer.querySelectorAll<HTMLElement>("[data-mark]")];
  for (const sign of signs) sign.style.translate = "";
  const surface = layer.getBoundingClientRect();
  if (signs.length < 2 || surface.width === 0) return;
  const places = signs.map((sign) => {
    const { left, top, width, height } = sign.getBoundingClientRect();
    const middle = { x: left - surface.left + width / 2, y: top - surface.top + height / 2 };
    return { ...middle, w: width, h: height };
  });
  const asides = setApart(places, { w: surface.width, h: surface.height });
  const own = ownFrame(layer, surface);
  signs.forEach((sign, n) => {
    const { dx, dy } = asides[n]!;
    if (dx !== 0 || dy !== 0) sign.style.translate = own(dx, dy);
  });
}

/** From pixels of the screen to those of a layer that is turned (by quarters, `--turn`) or enlarged. */
function ownFrame(layer: HTMLElement, { width, height }: DOMRect) {
  const turn = (Number.parseFloat(getComputedStyle(layer).getPropertyValue("--turn")) || 0) / 90;
  const scale = Math.sqrt((layer.offsetWidth * layer.offsetHeight) / (width * height)) || 1;
  const [cos, sin] = [
    Math.round(Math.cos((turn * Math.PI) / 2)),
    Math.round(Math.sin((turn * Math.PI) / 2)),
  ];
  return (dx: number, dy: number) =>
    `${(cos * dx + sin * dy) * scale}px ${(cos * dy - sin * dx) * scale}px`;
}
