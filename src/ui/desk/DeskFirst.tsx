import { sayState } from "@/core/views/states";
import { Moon } from "../kit/Moon";
import type { DeskProps } from "./state/useDeskModel";

/** What the server draws of the Desk: whose piece comes, in its place. The rest is drawn where it is used. */
export function DeskFirst({ first, queue }: DeskProps) {
  const at = queue.items.findIndex((item) => item.pieceId === first.id);
  return (
    <div className="desk-frame" aria-busy="true">
      <header
        data-own-line
        className="flex min-h-10 items-center gap-2 border-b border-line-strong px-2 text-sm md:h-10"
      >
        <span className="text-soft">
          {at + 1} of {queue.items.length}
        </span>
        <Moon moon={first.moon} size={20} named={false} />
        <h1 className="truncate text-xl!">{first.student}</h1>
        <span className="truncate text-soft">{sayState(first.moon)}</span>
      </header>
      <p className="px-4 py-12 text-soft [grid-area:work]">Laying {first.title} on the Desk …</p>
    </div>
  );
}
