import type { CellWork } from "@/core/ledger/cell";
import type { LedgerWithGrades } from "@/core/views/ledgerViews";
import type { World } from "../keeping/world";
import { sectionsOf } from "./cellsOf";

type Left = Record<string, { was: CellWork; now: CellWork }>;
type Unsent = { pieceId: string; was: CellWork; now: CellWork };
type View = Pick<LedgerWithGrades, "section" | "rows" | "parts"> &
  Partial<Pick<LedgerWithGrades, "terms" | "term">>;

/**
 * Cells on the device that are not sent: each section's by itself, so that they are found whether it stands alone or
 * beside others. What waits for another term's Ledger stays for it.
 */
export class KeptCells {
  /** Where each section's are kept, by the section's id. */
  private readonly keys: ReadonlyMap<string, string>;
  /** Whose a cell is, where sections stand side by side. */
  private sections: ReadonlyMap<string, string>;

  constructor(
    view: View,
    private readonly device: World["device"],
  ) {
    const parts = view.parts ?? [{ id: view.section.id, terms: view.terms?.length ?? 0 }];
    this.keys = new Map(
      parts.map(({ id, terms }) => [id, `ledger:${id}${terms > 1 ? ` ${view.term}` : ""}`]),
    );
    this.sections = sectionsOf(view);
  }

  /** The page was drawn anew: a cell that went from it is still its section's. */
  takeView(view: Pick<LedgerWithGrades, "rows">): void {
    this.sections = new Map([...this.sections, ...sectionsOf(view)]);
  }

  /** Whose a cell is, where sections stand side by side; null: one stands alone. */
  sectionOf(pieceId: string): string | null {
    return this.sections.get(pieceId) ?? null;
  }

  /** What a closed tab left, by pieces. */
  async left(): Promise<Left> {
    const kept = await Promise.all(
      [...this.keys.values()].map((key) => this.device.kept<Left>(key)),
    );
    return Object.assign({}, ...kept.map((one) => one?.value));
  }

  /** Keeps all that is not sent. @returns whether the device kept it */
  async keep(unsent: readonly Unsent[]): Promise<boolean> {
    const [only] = this.keys.keys();
    const left = new Map<string, Left>();
    for (const { pieceId, ...cell } of unsent) {
      const section = this.sectionOf(pieceId) ?? only!;
      left.set(section, { ...left.get(section), [pieceId]: cell });
    }
    const all = [...this.keys].map(([section, key]) => {
      const own = left.get(section);
      return own ? this.device.keep(key, own, 0) : this.device.release(key).then(() => true);
    });
    return (await Promise.all(all)).every(Boolean);
  }
}
