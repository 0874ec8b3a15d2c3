"use client";

import Link from "next/link";
import { Popover } from "radix-ui";
import { SCREENS } from "../../frame/screens";
import { useDesk } from "../model";

const WAYS = [
  ...SCREENS.teacher.filter(({ href }) => href !== "/desk"),
  { href: "/hand-out", name: "Hand out" },
  { href: "/letters", name: "Letters" },
  { href: "/account", name: "Password and devices" },
];

/** The way to the other screens, behind the wordmark. */
export function Screens() {
  const { about, run } = useDesk();
  const act = "min-h-9 cursor-pointer px-2 text-left text-tide hover:bg-sunk max-sm:min-h-11";
  return (
    <Popover.Root>
      <Popover.Trigger
        className="min-h-8 shrink-0 cursor-pointer font-serif text-lg tracking-tight hover:underline max-md:min-h-11"
        aria-label="Almanac: other screens"
      >
        Almanac ▾
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          aria-label="Screens"
          className="z-40 grid w-48 border border-line-strong bg-raised p-2 shadow-lifted"
        >
          {/* What the line has no room for on a phone. */}
          <span className="grid border-b border-line md:hidden">
            <Link href={about.back.href} className={`${act} inline-flex items-center`}>
              ← {about.back.words}
            </Link>
            <Popover.Close className={act} onClick={() => run("beside")}>
              beside the work
            </Popover.Close>
            <Popover.Close className={act} onClick={() => run("keys")}>
              keys
            </Popover.Close>
          </span>
          {WAYS.map(({ href, name }) => (
            <Link
              key={href}
              href={href}
              prefetch={false}
              className="inline-flex min-h-9 items-center px-2 text-ink no-underline hover:bg-sunk max-sm:min-h-11"
            >
              {name}
            </Link>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
