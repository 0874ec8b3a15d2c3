"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { sayCount } from "@/core/text/sayCount";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { choose } from "../handingBack/chosen";
import { Button } from "../kit/Button";
import { FlagChosen } from "./FlagChosen";
import { WriteLetter } from "../letters/WriteLetter";

/** What can be done with the students chosen on the sheet. */
export function SheetChosen({
  sheet,
  chosen,
}: {
  sheet: HandOutSheet;
  chosen: readonly SheetLine[];
}) {
  const router = useRouter();
  const [writing, setWriting] = useState(false);
  const drafts = sheet.lines.filter((line) => line.drafted).length;
  const toBack = (lines: readonly SheetLine[]) => {
    if (lines.length > 0) choose(lines.map((line) => line.pieceId));
    router.push(`/hand-back?handOut=${sheet.id}`);
  };
  if ((drafts === 0 || !sheet.mayHandBack) && chosen.length === 0) return null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2" role="group" aria-label="Those chosen">
      {chosen.length === 0 ? (
        <Button small ink="tide" onClick={() => toBack([])}>
          Hand back {sayCount(drafts, "draft")} …
        </Button>
      ) : (
        <>
          <span className="text-sm">{sayCount(chosen.length, "student")} chosen</span>
          {sheet.mayHandBack ? (
            <Button
              small
              ink="tide"
              disabled={!chosen.some((line) => line.drafted || line.feedback !== "")}
              onClick={() => toBack(chosen)}
            >
              Hand back …
            </Button>
          ) : null}
          <Button small onClick={() => setWriting(true)}>
            Write a letter …
          </Button>
          <FlagChosen sheet={sheet} chosen={chosen} />
        </>
      )}
      {writing ? (
        <WriteLetter
          sectionId={sheet.sectionId}
          handOutId={sheet.id}
          about={sheet.title}
          students={chosen}
          onClose={() => setWriting(false)}
        />
      ) : null}
    </div>
  );
}
