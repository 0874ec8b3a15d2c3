import type { ButtonHTMLAttributes, Ref } from "react";
import { classes } from "./classes";

/** What is on is told by its edge, not by its ground alone. */
const ON =
  "aria-pressed:border-tide aria-pressed:bg-tide-wash aria-pressed:ring-1 aria-pressed:ring-tide aria-pressed:ring-inset";
const INKS = {
  /** The one thing to do now. */
  tide: "bg-tide text-paper border-tide hover:opacity-90",
  plum: "bg-plum text-paper border-plum hover:opacity-90",
  plain: `border-line-strong bg-raised text-ink hover:bg-sunk ${ON}`,
  quiet: `border-transparent text-tide hover:bg-sunk underline-offset-4 hover:underline ${ON}`,
} as const;

export function Button({
  ink = "plain",
  small,
  className,
  type = "button",
  ref,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & {
  ink?: keyof typeof INKS;
  small?: boolean;
  ref?: Ref<HTMLButtonElement>;
}) {
  return (
    <button
      ref={ref}
      type={type}
      className={classes(
        // A finger needs 44 px on a small screen, whatever the size on a large one.
        "max-sm:min-h-11 inline-flex items-center justify-center gap-2 border rounded-[3px] whitespace-nowrap cursor-pointer aria-disabled:opacity-60 aria-disabled:cursor-default disabled:opacity-60 disabled:cursor-default",
        small ? "px-2 py-0.5 text-sm min-h-7" : "px-4 py-1.5 min-h-10",
        INKS[ink],
        className,
      )}
      {...rest}
    />
  );
}
