"use client";

import Link from "next/link";
import { usePathname } from "next/navigation";
import { classes } from "../kit/classes";

export function ScreenLink({ href, name, exact }: { href: string; name: string; exact?: boolean }) {
  const path = usePathname();
  const here = path === href || (!exact && path.startsWith(`${href}/`));
  return (
    <Link
      href={href}
      prefetch={false}
      aria-current={here ? "page" : undefined}
      className={classes(
        "inline-flex min-h-9 items-center px-2 text-ink no-underline hover:underline",
        here && "font-semibold underline decoration-tide decoration-2 underline-offset-[0.4em]",
      )}
    >
      {name}
    </Link>
  );
}
