"use client";

import { useEffect } from "react";
import { drawAhead } from "../../items/pdfDocuments";
import type { DeskSession } from "../store/DeskSession";

/** The neighbours are loaded ahead with the first page of their files, so that going on is instant. */
export function useAhead(session: DeskSession, near: readonly (string | undefined)[]): void {
  const around = near.filter((id) => id !== undefined).join(" ");
  useEffect(() => {
    for (const id of around.split(" ").filter(Boolean)) {
      void session.pieces
        .wanted(id)
        .whenRead()
        .then((ahead) => {
          const shown = ahead?.items[0]?.view;
          if (shown?.as === "pages") void drawAhead(shown.href);
          else if (shown?.as === "picture") new Image().src = shown.href;
        });
    }
  }, [session, around]);
}
