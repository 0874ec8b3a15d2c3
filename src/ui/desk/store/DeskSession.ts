import type { DeskPiece, QueueItem } from "@/core/views/deskViews";
import type { BatchView } from "@/core/views/handBackViews";
import { Observable } from "../../keeping/Observable";
import type { World } from "../../keeping/world";
import { clampZoom, WORDS, type Tool } from "../../marks/tools";
import type { DeskApi } from "./deskApi";
import { DeskStore } from "./DeskStore";
import { makeFeedback, type Feedback } from "./feedback";
import { Marking } from "./Marking";
import type { DeskModel } from "../model";
import type { PieceStore } from "./PieceStore";

/** What the strip shows of a piece, which stays when the piece itself is let go. */
export type Known = Pick<QueueItem, "student" | "moon" | "drafted">;

export type DeskView = {
  pieceId: string;
  tool: Tool;
  zoom: number;
  /** Kinds of mark that are not shown. */
  hidden: ReadonlySet<string>;
  /** Notes stand on one line each. */
  folded: boolean;
  comparing: boolean;
  revising: boolean;
  /** What is asked before this piece goes back for good. */
  asking: readonly string[] | null;
  open: "keys" | "palette" | "flag" | "move" | null;
  beside: boolean;
  /** What was handed back last, and can be taken back from here. */
  done: { pieceId: string; words: string; batch: BatchView | null } | null;
  /** So often the rubric was asked for by its key: it opens and takes the focus each time. */
  rubricAsked: number;
  known: Readonly<Record<string, Known>>;
};

/** Something that was done at the Desk, and taking it back; null: the marks of its piece know how. */
export type Act = {
  pieceId: string;
  undo: ((desk: DeskModel) => void | Promise<void>) | null;
};

/** So many acts are remembered for taking back. */
const MOST_ACTS = 500;

/** The places of the screen that acts go to. */
export type Port = "scroller" | "sheet" | "writing" | "overall" | "score" | "dock";

/**
 * A teacher's time at the Desk: which piece lies on it, how it is looked at, and what is in the hand. Screens read
 * it, commands act on it; it knows no component.
 */
export class DeskSession extends Observable<DeskView> {
  readonly pieces: DeskStore;
  private readonly ports = new Map<Port, HTMLElement>();
  private readonly takers = new Map<Port, (element: HTMLElement | null) => void>();
  private markingHere: { of: string; marking: Marking } | null = null;
  private acts: Act[] = [];
  private feedback: { of: string; keeper: Feedback } | null = null;

  constructor(
    first: DeskPiece,
    api: DeskApi,
    private readonly world: World,
  ) {
    super({
      pieceId: first.id,
      tool: WORDS,
      zoom: 1,
      hidden: new Set(),
      folded: false,
      comparing: false,
      revising: false,
      asking: null,
      open: null,
      beside: false,
      done: null,
      rubricAsked: 0,
      known: {},
    });
    this.pieces = new DeskStore(api, world, (pieceId) => this.did({ pieceId, undo: null }));
    this.pieces.begin(first);
  }

  get store(): PieceStore {
    return this.pieces.piece(this.state.pieceId);
  }

  /** Putting marks on the piece that lies here. */
  get marking(): Marking {
    const { pieceId } = this.state;
    if (this.markingHere?.of !== pieceId)
      this.markingHere = { of: pieceId, marking: new Marking(this.store, this.world) };
    return this.markingHere.marking;
  }

  /** The draft of the overall note and the score of a piece's round. */
  feedbackOf(piece: DeskPiece): Feedback {
    const of = `${piece.id} ${piece.round}`;
    if (this.feedback?.of !== of)
      this.feedback = { of, keeper: makeFeedback(this.pieces.piece(piece.id), piece, this.world) };
    return this.feedback.keeper;
  }

  /** Notes what was done, on whatever piece, so that it can be taken back. */
  readonly did = (act: Act): void => {
    this.acts = [...this.acts, act].slice(-MOST_ACTS);
  };
  /** What was done last, which is no longer noted. */
  readonly takeLastAct = (): Act | undefined => this.acts.pop();

  /** Where an element of the screen is told to; the same function for the same port each time. */
  readonly port = (name: Port): ((element: HTMLElement | null) => void) => {
    const taker =
      this.takers.get(name) ??
      ((element: HTMLElement | null) => {
        if (element) this.ports.set(name, element);
        else this.ports.delete(name);
      });
    this.takers.set(name, taker);
    return taker;
  };
  readonly at = (name: Port): HTMLElement | null => this.ports.get(name) ?? null;
  readonly focus = (name: Port): void => this.at(name)?.focus();

  /** Lays another piece on the Desk: nothing of the one before is selected or begun any more. */
  lay(pieceId: string): void {
    this.marking.clear();
    this.pieces.wanted(pieceId);
    this.set({ pieceId, comparing: false, tool: WORDS });
    // The focus goes to where work goes on, whatever was pressed to get here.
    const scroller = this.at("scroller");
    scroller?.focus({ preventScroll: true });
    scroller?.scrollTo({ top: 0 });
  }

  readonly take = (tool: Tool): void => this.set({ tool });
  readonly show = (open: DeskView["open"]): void => this.set({ open });
  readonly close = (): void => this.set({ open: null });
  readonly turn = (what: "comparing" | "beside" | "folded"): void =>
    this.set({ [what]: !this.state[what] });
  readonly leaveComparing = (): void => this.set({ comparing: false });
  readonly askBack = (asking: readonly string[] | null): void => this.set({ asking });
  readonly setRevising = (revising: boolean): void => this.set({ revising });
  readonly setDone = (done: DeskView["done"]): void => this.set({ done });
  readonly askRubric = (): void => this.set({ rubricAsked: this.state.rubricAsked + 1 });

  readonly hide = (kind: string): void => {
    const hidden = new Set(this.state.hidden);
    if (!hidden.delete(kind)) hidden.add(kind);
    this.set({ hidden });
  };

  readonly zoomBy = (factor: number): void =>
    this.set({ zoom: clampZoom(this.state.zoom * factor) });
  readonly zoomTo = (zoom: number): void => this.set({ zoom: clampZoom(zoom) });

  /** As large as a whole page can be seen at once. */
  readonly wholePage = (): void => {
    const page = this.at("sheet")?.querySelector("[data-surface]")?.getBoundingClientRect();
    const room = this.at("scroller")?.clientHeight;
    if (!page || room === undefined) return;
    this.set({ zoom: clampZoom((this.state.zoom * (room - 70)) / page.height, 0.2) });
  };

  /** Notes what the strip shows of a piece. */
  remember(piece: DeskPiece): void {
    const drafted =
      piece.moon.state === "handed_in" && (piece.revision > 0 || piece.marks.length > 0);
    const known = { student: piece.student, moon: piece.moon, drafted };
    this.set({ known: { ...this.state.known, [piece.id]: known } });
  }
}
