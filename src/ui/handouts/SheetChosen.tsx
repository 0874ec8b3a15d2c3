"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import { isWithStudent } from "@/core/pieces/life";
import { sayCount } from "@/core/text/sayCount";
import type { HandOutSheet, SheetLine } from "@/core/views/overviewViews";
import { choose } from "../handingBack/chosen";
import { Button } from "../kit/Button";
import { ExtendChosen } from "./ExtendChosen";
import { FlagChosen } from "./FlagChosen";
import { WriteLetter } from "../letters/WriteLetter";

/** Something is still to be handed in. */
const owes = ({ moon }: SheetLine): boolean => !moon.excused && isWithStudent(moon.state);

/** A reminder begins so; the teacher changes it as they like before it goes. */
const reminderOf = ({ title, due }: HandOutSheet): string =>
  `Hello {name},\n\n“${title}” is not in yet; it is due ${due}. If something keeps you from it, tell me.`;

/** What can be done with the students chosen on the sheet. */
export function SheetChosen({
  sheet,
  chosen,
}: {
  sheet: HandOutSheet;
  chosen: readonly SheetLine[];
}) {
  const router = useRouter();
  const [writing, setWriting] = useState<"letter" | "reminder" | null>(null);
  const [extending, setExtending] = useState(false);
  const owing = chosen.filter(owes);
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
          {sheet.mayHandBack ? (
            <Button small onClick={() => setExtending(true)}>
              Extend …
            </Button>
          ) : null}
          <Button small onClick={() => setWriting("letter")}>
            Write a letter …
          </Button>
          <Button small disabled={owing.length === 0} onClick={() => setWriting("reminder")}>
            Remind …
          </Button>
          <FlagChosen sheet={sheet} chosen={chosen} />
        </>
      )}
      {writing ? (
        <WriteLetter
          sectionId={sheet.sectionId}
          handOutId={sheet.id}
          about={sheet.title}
          students={writing === "reminder" ? owing : chosen}
          body={writing === "reminder" ? reminderOf(sheet) : ""}
          onClose={() => setWriting(null)}
        />
      ) : null}
      {extending ? (
        <ExtendChosen {...{ sheet, chosen }} onClose={() => setExtending(false)} />
      ) : null}
    </div>
  );
}
