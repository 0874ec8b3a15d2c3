import { cellText, MOST_CELLS, sameCell, type CellWork } from "@/core/ledger/cell";
import { inverse, type Change } from "@/core/ledger/changes";
import { sayCount } from "@/core/text/sayCount";
import type {
  CellNoted,
  LedgerCell,
  LedgerGrades,
  LedgerWithGrades,
  SavedCell,
  SavedCells,
} from "@/core/views/ledgerViews";
import { Problem } from "../client";
import { Observable } from "../keeping/Observable";
import { backOff, isSignedOut, isUnanswered } from "../keeping/reach";
import { cellsOf } from "./cellsOf";
import { KeptCells } from "./keptCells";
import type { World } from "../keeping/world";

export type SentCell = { pieceId: string; was: CellWork; now: CellWork };

/** A cell that was changed here, or that an answer told of. */
export type Touched = {
  /** As the server has it, as far as is known here. */ base: LedgerCell;
  /** What stands in the cell here. */ work: CellWork;
  /** What it was when it was changed here: what the server compares with. */ was: CellWork;
  unsent: boolean;
  /** It was changed elsewhere to something else: both stay until one is chosen. */
  theirs: { cell: LedgerCell; by: string } | null;
};

/** `waiting`: no answer; it goes by itself. `signed out`: it goes once one has signed in again. */
export type LedgerStage = "saved" | "changed" | "sending" | "waiting" | "signed out";
export type LedgerState = {
  touched: ReadonlyMap<string, Touched>;
  grades: LedgerGrades;
  undo: readonly (readonly Change[])[];
  redo: readonly (readonly Change[])[];
  stage: LedgerStage;
  /** The device keeps nothing (a private window, no room). */ deviceKeeps: boolean;
  /** What was said last: undone, refused, put back. */ said: string;
};

/** So long after the last cell was typed it is sent, with those before it. */
const PAUSE_MS = 400;
/** So many steps can be undone. */
const MOST_STEPS = 200;

/**
 * What is typed into the Ledger: shown at once, on the device with each change, and on the server a moment later, some
 * cells in one request and each by itself. Steps are undone and done again as changes like any other. A cell that someone
 * else changed meanwhile stands beside theirs until one is chosen; nothing is overwritten in silence.
 */
export class LedgerStore extends Observable<LedgerState> {
  private cells: Map<string, LedgerCell>;
  private readonly kept: KeptCells;
  private chain: Promise<void> = Promise.resolve();
  private attempts = 0;
  /** So many go in one request; one by one when some of them were refused, so that the others are not. */
  private most = MOST_CELLS;
  private forget: () => void = () => {};

  constructor(
    view: Pick<LedgerWithGrades, "section" | "rows" | "grades" | "parts"> &
      Partial<Pick<LedgerWithGrades, "terms" | "term">>,
    private readonly world: World,
    private readonly send: (cells: SentCell[]) => Promise<SavedCells>,
  ) {
    super({
      ...{ touched: new Map(), grades: view.grades, undo: [], redo: [] },
      ...{ stage: "saved", deviceKeeps: true, said: "" },
    });
    this.cells = cellsOf(view);
    this.kept = new KeptCells(view, world.device);
  }

  /** From here on it sends and wakes by itself. @returns what ends it */
  start(): () => void {
    void this.recover();
    const asleep = this.world.onWake(() => this.waits && void this.flush());
    return () => {
      asleep();
      this.forget();
      if (this.unsentCells().length > 0) void this.flush();
    };
  }

  /** The page was drawn anew: what is not sent here stays as it is. */
  takeView(view: Pick<LedgerWithGrades, "rows" | "grades">): void {
    this.cells = cellsOf(view);
    this.kept.takeView(view);
    const kept = [...this.state.touched].filter(([, cell]) => cell.unsent);
    this.set({ touched: new Map(kept), grades: view.grades });
  }

  /** A cell as it stands here: as the server has it, and what is typed over it. */
  at(pieceId: string): { cell: LedgerCell; work: CellWork; touched: Touched | null } | null {
    const touched = this.state.touched.get(pieceId) ?? null;
    const cell = touched?.base ?? this.cells.get(pieceId);
    return cell ? { cell, work: touched?.work ?? cell.work, touched } : null;
  }

  /** Whose a cell is, where sections stand side by side; null: one stands alone. */
  sectionOf(pieceId: string): string | null {
    return this.kept.sectionOf(pieceId);
  }

  /** One step: its changes are shown, kept, and sent in a moment. */
  apply(changes: readonly Change[]): void {
    if (changes.length === 0) return;
    const undo = [...this.state.undo, changes].slice(-MOST_STEPS);
    this.change(changes, { undo, redo: [], said: "" });
  }

  undo(): void {
    const step = this.state.undo.at(-1);
    if (!step) return this.set({ said: "There is nothing to undo." });
    const [undo, redo] = [this.state.undo.slice(0, -1), [...this.state.redo, step]];
    this.again(inverse(step), { undo, redo }, "Undone");
  }

  redo(): void {
    const step = this.state.redo.at(-1);
    if (!step) return this.set({ said: "There is nothing to do again." });
    const [undo, redo] = [[...this.state.undo, step], this.state.redo.slice(0, -1)];
    this.again(step, { undo, redo }, "Done again");
  }

  /** Of two that were typed at the same time, one stays. */
  choose(pieceId: string, which: "mine" | "theirs"): void {
    const cell = this.state.touched.get(pieceId);
    if (!cell?.theirs) return;
    const base = cell.theirs.cell;
    const mine = which === "mine";
    const work = mine ? cell.work : base.work;
    this.put(pieceId, { base, work, was: base.work, unsent: mine, theirs: null });
    this.keepOnDevice();
    if (mine) void this.flush();
    else this.settle();
  }

  /** Something was written beside a cell, or taken away. */
  noted(pieceId: string, noted: CellNoted | null): void {
    const found = this.at(pieceId);
    if (!found) return;
    const base = { ...found.cell, noted };
    this.cells.set(pieceId, base);
    if (found.touched) this.put(pieceId, { ...found.touched, base });
    else this.set({ touched: new Map(this.state.touched) });
  }

  say(said: string): void {
    this.set({ said });
  }

  /** Sends what is not sent. */
  readonly flush = (): Promise<void> => {
    this.forget();
    this.chain = this.chain.then(() => this.sendAll());
    return this.chain;
  };

  private again(
    changes: readonly Change[],
    steps: Pick<LedgerState, "undo" | "redo">,
    word: string,
  ): void {
    const still = changes.filter(({ pieceId, before }) => {
      const cell = this.at(pieceId);
      return cell !== null && sameCell(cell.work, before);
    });
    const others = changes.length - still.length;
    const rest =
      others > 0 ? ` ${sayCount(others, "cell was", "cells were")} changed since and left.` : "";
    this.change(still, { ...steps, said: `${word}: ${sayCount(still.length, "cell")}.${rest}` });
  }

  private change(changes: readonly Change[], part: Partial<LedgerState>): void {
    const touched = new Map(this.state.touched);
    for (const { pieceId, after } of changes) {
      const found = this.at(pieceId);
      if (!found) continue;
      const was = found.touched?.unsent ? found.touched.was : found.cell.work;
      const theirs = found.touched?.theirs ?? null;
      touched.set(pieceId, { base: found.cell, work: after, was, unsent: true, theirs });
    }
    this.set({ ...part, touched, stage: "changed" });
    this.keepOnDevice();
    this.sendIn(PAUSE_MS);
  }

  private get waits(): boolean {
    return this.state.stage === "waiting" || this.state.stage === "signed out";
  }

  /** What can go: not sent, and not waiting for a choice. */
  private unsentCells(): [string, Touched][] {
    return [...this.state.touched].filter(([, cell]) => cell.unsent && !cell.theirs);
  }

  private async sendAll(): Promise<void> {
    for (let batch = this.batch(); batch.length > 0; batch = this.batch()) {
      this.set({ stage: "sending" });
      try {
        this.answered(batch, await this.send(batch));
        this.attempts = 0;
      } catch (error) {
        if (!this.failed(batch, error)) return;
      }
    }
    this.most = MOST_CELLS;
    this.settle();
  }

  private batch(): SentCell[] {
    return this.unsentCells()
      .slice(0, this.most)
      .map(([pieceId, { was, work }]) => ({ pieceId, was, now: work }));
  }

  private answered(batch: readonly SentCell[], { cells, grades }: SavedCells): void {
    const sent = new Map(batch.map((cell) => [cell.pieceId, cell.now]));
    for (const saved of cells) this.answeredOne(saved, sent.get(saved.pieceId)!);
    this.set({ grades: { ...this.state.grades, ...grades } });
    this.keepOnDevice();
  }

  private answeredOne(saved: SavedCell, sent: CellWork): void {
    const { pieceId, cell } = saved;
    const here = this.state.touched.get(pieceId)!;
    if (saved.outcome === "conflict") {
      this.put(pieceId, { ...here, theirs: { cell, by: saved.by } });
      return;
    }
    // Typed over meanwhile: that goes next, and is compared with what the server has now.
    const newer = saved.outcome === "saved" && !sameCell(here.work, sent);
    const work = newer ? here.work : cell.work;
    this.put(pieceId, { base: cell, work, was: cell.work, unsent: newer, theirs: null });
    if (saved.outcome === "refused")
      this.set({ said: `“${cellText(sent)}” was not kept: ${saved.why}` });
  }

  /** @returns whether to go on: the server said no to these, and what it says is told */
  private failed(batch: readonly SentCell[], error: unknown): boolean {
    if (isUnanswered(error) || isSignedOut(error)) {
      this.set({ stage: isSignedOut(error) ? "signed out" : "waiting" });
      this.sendIn(backOff(this.attempts));
      this.attempts += 1;
      return false;
    }
    if (batch.length > 1) {
      this.most = 1;
      return true;
    }
    const [{ pieceId, now }] = batch as [SentCell];
    const { base } = this.state.touched.get(pieceId)!;
    this.put(pieceId, { base, work: base.work, was: base.work, unsent: false, theirs: null });
    const why = error instanceof Problem ? error.message : "Something went wrong.";
    this.set({ said: `“${cellText(now)}” was not kept: ${why}` });
    this.keepOnDevice();
    return true;
  }

  private settle(): void {
    if (this.unsentCells().length === 0) this.set({ stage: "saved" });
  }

  private put(pieceId: string, cell: Touched): void {
    this.set({ touched: new Map(this.state.touched).set(pieceId, cell) });
  }

  private sendIn(ms: number): void {
    this.forget();
    this.forget = this.world.after(ms, () => void this.flush());
  }

  /** What a closed tab left: put back, and compared with what the server has when it is sent. */
  private async recover(): Promise<void> {
    const left = await this.kept.left();
    const touched = new Map(this.state.touched);
    for (const [pieceId, { was, now }] of Object.entries(left)) {
      const base = this.cells.get(pieceId);
      if (base && !touched.has(pieceId))
        touched.set(pieceId, { base, work: now, was, unsent: true, theirs: null });
    }
    const count = touched.size - this.state.touched.size;
    if (count === 0) return;
    const said = `${sayCount(count, "cell")} that this device had not sent yet: put back.`;
    this.set({ touched, stage: "changed", said });
    await this.flush();
  }

  private keepOnDevice(): void {
    const unsent = [...this.state.touched].filter(([, cell]) => cell.unsent);
    const cells = unsent.map(([pieceId, { was, work }]) => ({ pieceId, was, now: work }));
    void this.kept.keep(cells).then((kept) => kept || this.set({ deviceKeeps: false }));
  }
}
