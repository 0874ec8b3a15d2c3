"use client";

import type { ReactNode } from "react";
import { Button } from "./Button";

/** Prints the page; it is not on the paper itself. */
export const PrintButton = ({
  className = "",
  children = "Print",
}: {
  className?: string;
  children?: ReactNode;
}) => (
  <Button small className={`print:hidden ${className}`} onClick={() => window.print()}>
    {children}
  </Button>
);
