import Link from "next/link";
import type { MastheadView } from "@/core/views/overviewViews";
import type { Theme } from "@/core/views/theme";
import { GuideMark } from "../guide/GuideMark";
import { Finder } from "../search/Finder";
import { HandOutLink } from "./HandOutLink";
import { MastheadFold } from "./MastheadFold";
import { Me } from "./Me";
import { ScreenLink } from "./ScreenLink";
import { SCREENS } from "./screens";

/** The head of every page: the wordmark, the date as an almanac writes it, the screens as words, me. */
export function Masthead({ view, theme }: { view: MastheadView; theme: Theme }) {
  return (
    <header className="masthead no-print border-b border-line-strong" data-letters={view.letters}>
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:z-50 focus:bg-raised focus:px-3 focus:py-2"
      >
        To the page
      </a>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 py-2">
        <Link href="/" className="font-serif text-2xl tracking-tight text-ink no-underline">
          Almanac
        </Link>
        <p className="font-serif text-soft italic max-sm:order-2 max-sm:w-full max-sm:text-sm">
          {view.day} <span className="not-italic">·</span> {view.week}
        </p>
        <MastheadFold>
          {view.kind === "teacher" ? <HandOutLink /> : null}
          <Finder kind={view.kind} />
          <nav aria-label="Screens" className="ml-auto">
            <ul className="flex flex-wrap items-baseline gap-x-1">
              {SCREENS[view.kind].map((screen) => (
                <li key={screen.href}>
                  <ScreenLink {...screen} />
                </li>
              ))}
            </ul>
          </nav>
          <GuideMark kind={view.kind} />
          <Me
            name={view.name}
            school={view.school}
            theme={theme}
            feed={view.kind === "teacher" || view.kind === "student"}
            receipts={view.kind === "teacher"}
            office={view.keepsSchool && view.kind === "teacher"}
          />
        </MastheadFold>
      </div>
    </header>
  );
}
