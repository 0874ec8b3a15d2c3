import { shorten } from "@/core/text/shorten";
import Link from "next/link";
import type { ForReaders as Readers } from "@/core/views/lookViews";

const LINE = "flex min-h-11 flex-wrap items-baseline gap-x-4 px-3 py-2 text-ink no-underline hover:bg-sunk"; // prettier-ignore

/** On My work: what classmates ask a look at, and what is shown to the class just now. */
export function ForReaders({ view, section }: { view: Readers; section: string | null }) {
  // One section alone shows its own history.
  if (section !== null || view.looks.length + view.displays.length === 0) return null;
  return (
    <section aria-labelledby="for-readers">
      <h2 id="for-readers">From classmates</h2>
      <ul className="mt-1">
        {view.looks.map((look) => (
          <li key={look.id} className="border-t border-line">
            <Link href={`/looks/${look.id}`} prefetch={false} className={LINE}>
              <span className="min-w-52 flex-1">
                <span className="font-serif text-lg">{look.writer} asks you for a look</span>
                <span className="block text-sm text-soft">
                  {look.title}: “{shorten(look.question, 100)}”
                </span>
              </span>
              <span className="text-sm text-soft">until {look.until}</span>
            </Link>
          </li>
        ))}
        {view.displays.map((display) => (
          <li key={display.handOutId} className="border-t border-line">
            <Link href={`/displays/${display.handOutId}`} prefetch={false} className={LINE}>
              <span className="min-w-52 flex-1">
                <span className="font-serif text-lg">Display: {display.title}</span>
                <span className="block text-sm text-soft">{display.section}</span>
              </span>
              <span className="text-sm text-soft">open until {display.until}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
