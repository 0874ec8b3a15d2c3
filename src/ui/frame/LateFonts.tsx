"use client";

import { useEffect } from "react";

/** Fonts the page can be used without. */
export function LateFonts() {
  useEffect(() => void import("./late.css"), []);
  return null;
}
