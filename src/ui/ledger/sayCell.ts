import type { CellWork } from "@/core/ledger/cell";
import { sayState } from "@/core/views/states";
import { sayCount } from "@/core/text/sayCount";
import type { CellNoted, LedgerCell } from "@/core/views/ledgerViews";
import type { MoonView } from "@/core/views/views";
import type { Touched } from "./LedgerStore";

/** A cell as it stands here, whatever of it is sent. */
export type CellHere = { cell: LedgerCell; work: CellWork; touched: Touched | null };

/** The score a cell shows, and whether it is one that was not handed back as it stands. */
export function scoreHere({ cell, work, touched }: CellHere): { words: string; draft: boolean } {
  // Typed a moment ago: as typed, until the server says how its scale shows it.
  if (touched?.unsent && work.score !== cell.work.score) return { words: work.score, draft: true };
  if (cell.draft !== null) return { words: cell.draft, draft: true };
  return { words: cell.score ?? "", draft: false };
}

/** How far the piece is, with what was said of it here. */
export function moonHere({ cell, work }: CellHere): MoonView {
  const { flag, excused } = work;
  const byDates = (word: "late" | "missing") => cell.work.flag !== word && cell.moon[word];
  const late = flag === "late" || (flag !== "on time" && byDates("late"));
  return {
    ...cell.moon,
    excused,
    late,
    missing: !excused && (flag === "missing" || byDates("missing")),
  };
}

/** What is written beside it, and for whom. */
const sayNoted = (noted: CellNoted | null): string[] =>
  noted
    ? [
        noted.toStudent ? "a note to the student" : "",
        noted.kept > 0 ? sayCount(noted.kept, "private note") : "",
      ]
    : [];

/** A cell in words, for those who do not see it: score, whether it is a draft, flag, state, what wants a choice. */
export function sayCell(here: CellHere): string {
  const { words, draft } = scoreHere(here);
  const { flag, excused } = here.work;
  const quiet = flag === "late" || flag === "missing" ? null : flag;
  const none = draft ? "score taken away" : "no score";
  const said = [
    words === "" ? none : words,
    draft ? "draft" : "",
    excused ? "excused" : (quiet ?? ""),
    sayState(moonHere(here)),
    ...sayNoted(here.cell.noted),
    here.touched?.theirs ? "changed by two, choose one" : "",
    here.touched?.unsent ? "not sent yet" : "",
  ];
  return [...new Set(said.filter(Boolean))].join(", ");
}
