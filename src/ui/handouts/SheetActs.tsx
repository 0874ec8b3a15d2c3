"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { HandOutSheet } from "@/core/views/overviewViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { BringBack } from "./BringBack";
import { CopyDialog } from "./CopyDialog";

/** What can be done with a hand-out as a whole: change, copy, withdraw and bring back, delete while nobody has begun. */
export function SheetActs({
  sheet,
  sections,
  told,
}: {
  sheet: HandOutSheet;
  sections: { id: string; name: string }[];
  told: string | null;
}) {
  const router = useRouter();
  const { act, busy, problem } = useAct();
  const [copying, setCopying] = useState(false);
  const [bringing, setBringing] = useState(false);
  const params = { handOutId: sheet.id };
  const withdraw = (withdrawn: boolean) =>
    act(() => call(contract.withdraw, { params, body: { withdrawn } }));
  const putAway = (away: boolean) => act(() => call(contract.putAway, { params, body: { away } }));
  return (
    <>
      {problem ? (
        <Notice ink="ember" className="my-3">
          {problem}
        </Notice>
      ) : null}
      {told !== null ? (
        <Notice ink="moss" className="my-3">
          {told === "nothing"
            ? "Nothing was changed."
            : `Changed. ${told === "0" ? "Nobody was told." : `${told === "1" ? "One student was" : `${told} students were`} told.`} What was changed stands below under “What happened, when”.`}
        </Notice>
      ) : null}
      {sheet.withdrawn ? (
        <Notice
          ink="ember"
          className="my-3"
          acts={
            sheet.mayChange ? (
              <Button small disabled={busy} onClick={() => void withdraw(false)}>
                Bring it back
              </Button>
            ) : undefined
          }
        >
          Withdrawn {sheet.withdrawn}. Students do not see it, and nothing they did is lost.
        </Notice>
      ) : sheet.opensLater ? (
        <Notice ink="tide" className="my-3">
          It opens {sheet.opens}. Until then students do not see it.
        </Notice>
      ) : sheet.archived ? (
        <Notice
          ink="tide"
          className="my-3"
          acts={
            sheet.mayChange ? (
              <Button small disabled={busy} onClick={() => void putAway(false)}>
                Bring it back
              </Button>
            ) : undefined
          }
        >
          Put away: it is over, and on none of the lists. Whatever happens to one of its pieces
          brings it back by itself.
        </Notice>
      ) : null}
      {sheet.mayChange ? (
        <div className="no-print mb-4 flex flex-wrap gap-2" role="group" aria-label="This hand-out">
          <Link
            href={`/hand-outs/${sheet.id}/change`}
            prefetch={false}
            className="inline-flex min-h-7 items-center rounded-[3px] border border-line-strong bg-raised px-2 text-sm text-ink no-underline hover:bg-sunk"
          >
            Change
          </Link>
          <Button small onClick={() => setCopying(true)}>
            Copy
          </Button>
          <a
            href={`/api/hand-outs/${sheet.id}/zip`}
            className="inline-flex min-h-7 items-center rounded-[3px] border border-line-strong bg-raised px-2 text-sm text-ink no-underline hover:bg-sunk max-sm:min-h-11"
            title="A folder per student: writing as DOCX and HTML, files as they were, and a table"
          >
            Fetch all as a zip
          </a>
          <Button small onClick={() => setBringing(true)}>
            Bring marked files back
          </Button>
          {sheet.withdrawn ? null : (
            <Button small disabled={busy} onClick={() => void withdraw(true)}>
              Withdraw
            </Button>
          )}
          {sheet.withdrawn || sheet.archived || sheet.opensLater ? null : (
            <Button small disabled={busy} onClick={() => void putAway(true)}>
              Put away
            </Button>
          )}
          {sheet.deletable ? (
            <Button
              small
              disabled={busy}
              onClick={() =>
                void act(() => call(contract.deleteHandOut, { params })).then(
                  (done) => done && router.push(`/sections/${sheet.sectionId}`),
                )
              }
            >
              Delete (nobody has begun)
            </Button>
          ) : null}
        </div>
      ) : null}
      {bringing ? <BringBack handOutId={sheet.id} onClose={() => setBringing(false)} /> : null}
      {copying ? (
        <CopyDialog
          handOutId={sheet.id}
          title={`Copy: ${sheet.title}`}
          sections={sections}
          first={[sheet.sectionId]}
          onClose={() => setCopying(false)}
        />
      ) : null}
    </>
  );
}
