import type { ReactNode } from "react";
import { classes } from "./classes";

const KINDS = {
  tide: { box: "border-tide bg-tide-wash", sign: "→" },
  ember: { box: "border-ember bg-ember-wash", sign: "▲" },
  moss: { box: "border-moss bg-moss-wash", sign: "✓" },
  plum: { box: "border-plum bg-plum-wash", sign: "↻" },
} as const;

/** A word from the program in its place; `ember` ones are announced at once. */
export function Notice({
  ink,
  children,
  acts,
  className,
}: {
  ink: keyof typeof KINDS;
  children: ReactNode;
  acts?: ReactNode;
  className?: string;
}) {
  const { box, sign } = KINDS[ink];
  return (
    <div
      role={ink === "ember" ? "alert" : "status"}
      className={classes(
        "flex flex-wrap items-start gap-x-3 gap-y-2 border-l-4 px-4 py-2.5",
        box,
        className,
      )}
    >
      <span aria-hidden="true">{sign}</span>
      <div className="min-w-0 flex-1">{children}</div>
      {acts ? <div className="flex flex-wrap gap-2">{acts}</div> : null}
    </div>
  );
}

/** What a page says when there is nothing on it yet. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="border-y border-line py-8 text-center text-soft">
      <p className="font-serif text-lg text-ink">{title}</p>
      {children ? <div className="mt-1">{children}</div> : null}
    </div>
  );
}
