import Link from "next/link";
import { MOST_BESIDE } from "@/core/ledger/sideBySide";
import { classes } from "../kit/classes";

/** The address of a Ledger, with the sections that stand beside it. */
export function ledgerHref(
  sectionId: string,
  { term, beside }: { term: string | null; beside: readonly string[] },
): string {
  const query = new URLSearchParams();
  if (term) query.set("term", term);
  if (beside.length > 0) query.set("beside", beside.join(","));
  const text = query.toString();
  return `/ledger/${sectionId}${text ? `?${text}` : ""}`;
}

type Props = {
  sections: readonly { id: string; name: string }[];
  sectionId: string;
  beside: readonly string[];
  term: string | null;
};

/** One's sections: each leads to its Ledger, and can be set beside the one that is looked at. */
export function SectionsOfLedger({ sections, sectionId, beside, term }: Props) {
  const full = beside.length + 1 >= MOST_BESIDE;
  return (
    <nav aria-label="Sections" className="flex flex-wrap gap-x-3">
      {sections.map(({ id, name }) => {
        const here = id === sectionId;
        const isBeside = beside.includes(id);
        const others = isBeside ? beside.filter((other) => other !== id) : [...beside, id];
        return (
          <span key={id} className="flex items-baseline">
            <Link
              href={ledgerHref(id, { term, beside: [] })}
              prefetch={false}
              aria-current={here ? "page" : undefined}
              className={classes(
                "min-h-6 max-sm:min-h-11 text-ink",
                here || isBeside
                  ? "font-semibold underline decoration-2 underline-offset-[0.4em]"
                  : "no-underline hover:underline",
                here && "decoration-tide",
              )}
            >
              {name}
            </Link>
            {here || (full && !isBeside) ? null : (
              <Link
                href={ledgerHref(sectionId, { term, beside: others })}
                prefetch={false}
                aria-label={isBeside ? `Put ${name} away` : `Put ${name} beside`}
                title={isBeside ? `Put ${name} away` : `Put ${name} beside`}
                className="min-h-6 min-w-6 text-center text-soft no-underline hover:text-ink max-sm:min-h-11 max-sm:min-w-11"
              >
                {isBeside ? "×" : "+"}
              </Link>
            )}
          </span>
        );
      })}
    </nav>
  );
}
