import type { ReactNode } from "react";
import { classes } from "./classes";

/** A button that lets a file be chosen; the same file can be chosen again. */
export function FileButton({
  accept,
  small,
  onFile,
  children,
}: {
  accept?: string;
  small?: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  return (
    <label
      className={classes(
        "cursor-pointer border border-line-strong bg-raised hover:bg-sunk focus-within:outline-2 focus-within:outline-tide",
        small
          ? "inline-flex items-center rounded-[3px] px-2 py-1 text-sm max-sm:min-h-11"
          : "px-3 py-1.5",
      )}
    >
      {children}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
