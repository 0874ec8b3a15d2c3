import Link from "next/link";
import type { Pile, PileKind } from "@/core/views/overviewViews";

const NAMES: Record<PileKind, { name: string; says: string; ink: string }> = {
  new: { name: "new in", says: "came in on time, nothing written yet", ink: "var(--tide)" },
  again: { name: "in again", says: "rework that waits for you", ink: "var(--plum)" },
  late: { name: "late in", says: "came in after the due time", ink: "var(--ember)" },
  drafted: { name: "drafted", says: "feedback begun, not handed back", ink: "var(--ink-soft)" },
  questions: { name: "questions", says: "students wait for a word", ink: "var(--tide)" },
  awaited: { name: "not in yet", says: "still with the students", ink: "var(--line-strong)" },
};

/** A sheet of the pile is one piece, up to this many; a larger pile is said in its number. */
const MOST_SHEETS = 16;

/** The piles, small, as a picture of the whole: as high as they are large, each the way to all that lies on it. */
export function Piles({ piles }: { piles: readonly Pile[] }) {
  return (
    <ul className="grid grid-cols-3 gap-x-4 gap-y-3 sm:grid-cols-6">
      {piles.map((pile) => (
        <PileOf key={pile.kind} pile={pile} />
      ))}
    </ul>
  );
}

function PileOf({ pile }: { pile: Pile }) {
  const { name, says, ink } = NAMES[pile.kind];
  const inside = (
    <>
      <span className="flex h-9 flex-col justify-end" aria-hidden="true">
        {Array.from({ length: Math.min(MOST_SHEETS, pile.count) }, (_, n) => (
          // Sheets lie a little askew, always the same way.
          <span
            key={n}
            className="block h-[2px] border-t"
            style={{
              borderColor: ink,
              marginLeft: `${((n * 7) % 5) * 2}px`,
              marginRight: `${((n * 11) % 6) * 3}px`,
            }}
          />
        ))}
        <span className="block border-t-2 border-ink" />
      </span>
      <span className="flex items-baseline gap-1.5">
        <span className="font-serif text-xl">{pile.count}</span>
        <span>{name}</span>
      </span>
    </>
  );
  return (
    <li title={says}>
      {pile.count === 0 ? (
        <span className="block text-soft">{inside}</span>
      ) : (
        <Link
          href={pile.kind === "questions" ? "/questions" : `/desk?pile=${pile.kind}`}
          prefetch={false}
          className="block text-ink no-underline hover:underline"
        >
          {inside}
        </Link>
      )}
    </li>
  );
}
