"use client";

import { createContext, useContext, type ReactNode } from "react";
import { sayFileInText, type FileInText } from "@/core/text/richDoc";

/**
 * Draws a file of the piece where it stands in the writing: to be played, turned over, or marked, as the screen has
 * it. Null for a file that is not there.
 */
export const FilesHere = createContext<((itemId: string) => ReactNode) | null>(null);

/** A sound, a film or a PDF between paragraphs. Where no screen draws it, it is named. */
export function FileHere({ attrs }: { attrs: FileInText["attrs"] }) {
  const shown = useContext(FilesHere)?.(attrs.item);
  return (
    <div
      data-file-here={attrs.item}
      data-as={attrs.as}
      data-name={attrs.name}
      className="file-here"
    >
      {shown ?? (
        <p className="border-l-4 border-line-strong pl-3 text-soft">{sayFileInText(attrs)}</p>
      )}
    </div>
  );
}
