import type { ReactNode } from "react";
import { classes } from "./classes";
import { WindowTitle } from "./WindowTitle";

/**
 * The one grid of all screens: the left edge of the masthead, and one of two widths. `reading` is as wide as lines are
 * read well; `table` is all there is, for tables, pictures of time and things side by side.
 */
export function Page({
  width,
  tight,
  title,
  article,
  className,
  children,
}: {
  width: "reading" | "table";
  /** As much as can be is in view at once. */ tight?: boolean;
  /** What is shown, for the title of the window, where the page's name alone does not say it. */ title?: string;
  /** It is a thing by itself: a piece, a look, a display. */ article?: boolean;
  className?: string;
  children: ReactNode;
}) {
  const Inner = article ? "article" : "div";
  return (
    <div className={classes("page-frame", tight && "page-tight")}>
      {title ? <WindowTitle words={title} /> : null}
      <Inner className={classes("w-full", width === "reading" && "max-w-[52rem]", className)}>
        {children}
      </Inner>
    </div>
  );
}
