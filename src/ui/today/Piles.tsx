"use client";

import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import type { Pile, PileKind } from "@/core/views/overviewViews";
import { classes } from "../kit/classes";

const NAMES: Record<PileKind, { name: string; says: string; ink: string }> = {
  new: { name: "new in", says: "came in on time, nothing written yet", ink: "var(--tide)" },
  again: { name: "in again", says: "rework that waits for you", ink: "var(--plum)" },
  late: { name: "late in", says: "came in after the due time", ink: "var(--ember)" },
  drafted: { name: "drafted", says: "feedback begun, not handed back", ink: "var(--ink-soft)" },
  questions: { name: "questions", says: "students wait for a word", ink: "var(--tide)" },
  awaited: { name: "not in yet", says: "still with the students", ink: "var(--line-strong)" },
};

/** A sheet of the pile is one piece, up to this many; a larger pile is said in its number. */
const MOST_SHEETS = 26;

/** The promised date is of the first round; rework has its own. */
const PROMISED = new Set<PileKind>(["new", "late", "drafted"]);

/** The piles: as high as they are large, and each opens into its hand-outs. */
export function Piles({ piles }: { piles: readonly Pile[] }) {
  return (
    <ul className="grid grid-cols-2 gap-x-6 gap-y-8 sm:grid-cols-3 xl:grid-cols-6">
      {piles.map((pile) => (
        <PileOf key={pile.kind} pile={pile} />
      ))}
    </ul>
  );
}

/** Hand-outs that a pile shows at first; the others are said with what they hold, so that the numbers add up. */
const MOST_SHOWN = 5;

function OtherShares({ pile }: { pile: Pile }) {
  const others = pile.shares.slice(MOST_SHOWN);
  if (others.length === 0) return null;
  const pieces = others.reduce((sum, share) => sum + share.count, 0);
  return (
    <details className="mt-1 text-sm">
      <summary className="cursor-pointer border-t border-line pt-1 text-tide">
        <strong className="mr-1.5 font-serif text-lg font-semibold text-ink">{pieces}</strong>
        in {sayCount(others.length, "more hand-out")}
      </summary>
      <ul className="mt-1 space-y-1">
        {others.map((share) => (
          <ShareOf key={share.handOutId} share={share} kind={pile.kind} />
        ))}
      </ul>
    </details>
  );
}

function ShareOf({ share, kind }: { share: Pile["shares"][number]; kind: PileKind }) {
  return (
    <li className="border-t border-line pt-1">
      <Link href={`/desk?pile=${kind}&handOut=${share.handOutId}`} prefetch={false}>
        <strong className="mr-1.5 font-serif text-lg font-semibold text-ink">{share.count}</strong>
        {share.title}
      </Link>
      <span className="block text-xs text-soft">
        {share.section}
        {share.oldest ? ` · oldest ${share.oldest}` : ""}
        {kind === "drafted" ? (
          <>
            {" · "}
            <Link href={`/hand-back?handOut=${share.handOutId}`} prefetch={false}>
              hand back …
            </Link>
          </>
        ) : null}
        {share.promised && PROMISED.has(kind) ? (
          <span className={share.overdue ? "block text-ember" : "block"}>
            {share.overdue ? "▲ was promised" : "promised"} {share.promised}
          </span>
        ) : null}
      </span>
    </li>
  );
}

function PileOf({ pile }: { pile: Pile }) {
  const { name, says, ink } = NAMES[pile.kind];
  const sheets = Math.min(MOST_SHEETS, pile.count);
  return (
    <li className="flex flex-col">
      <div className="flex h-24 flex-col justify-end" aria-hidden="true">
        {Array.from({ length: sheets }, (_, n) => (
          // Sheets lie a little askew, always the same way.
          <span
            key={n}
            className="block h-[3px] border-t"
            style={{
              borderColor: ink,
              marginLeft: `${((n * 7) % 5) * 2}px`,
              marginRight: `${((n * 11) % 6) * 3}px`,
            }}
          />
        ))}
        <span className="block border-t-2 border-ink" />
      </div>
      <h3 className="mt-1 flex items-baseline gap-2">
        <span className="text-2xl">{pile.count}</span> <span>{name}</span>
      </h3>
      <p className="text-sm text-soft">{says}</p>
      {pile.count > 0 ? (
        <>
          <ul className="mt-2 space-y-1 text-sm">
            {pile.shares.slice(0, MOST_SHOWN).map((share) => (
              <ShareOf key={share.handOutId} share={share} kind={pile.kind} />
            ))}
          </ul>
          <OtherShares pile={pile} />
          <p className="mt-auto pt-2">
            <Link
              href={`/desk?pile=${pile.kind}`}
              prefetch={false}
              className={classes(
                "inline-block border border-line-strong px-2 py-0.5 text-sm no-underline hover:border-tide",
              )}
            >
              {pile.count === 1 ? "to the Desk" : `all ${pile.count} to the Desk`}
            </Link>
          </p>
        </>
      ) : null}
    </li>
  );
}
