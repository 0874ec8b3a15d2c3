import type { DeskPiece } from "@/core/views/deskViews";
import type { World } from "../../keeping/world";
import type { DeskApi } from "./deskApi";
import { PieceStore } from "./PieceStore";

/** Pieces looked at lately, besides the one on the Desk and those something is on its way for. */
const REMEMBERED = 12;

/** The pieces of the Desk, each with what was done to it; those looked at long ago are let go of. */
export class DeskStore {
  private readonly pieces = new Map<string, PieceStore>();

  constructor(
    private readonly api: DeskApi,
    private readonly world: World,
    private readonly onActed: (pieceId: string) => void = () => {},
  ) {}

  /** The piece's store, made when it is first asked for; it reads the piece by itself. */
  piece(pieceId: string): PieceStore {
    const known = this.pieces.get(pieceId);
    if (known) return known;
    const made = this.make(pieceId);
    void made.load();
    return this.lately(pieceId, made);
  }

  /** The piece is about to be looked at: it is read again where it was read long ago. */
  wanted(pieceId: string): PieceStore {
    const store = this.piece(pieceId);
    if (store.isStale) void store.load();
    return this.lately(pieceId, store);
  }

  /** A piece that came with the page. */
  begin(piece: DeskPiece): void {
    const store = this.make(piece.id);
    store.begin(piece);
    this.lately(piece.id, store);
  }

  private make(pieceId: string): PieceStore {
    const store = new PieceStore(pieceId, this.api, this.world);
    store.onActed = () => this.onActed(pieceId);
    return store;
  }

  private lately(pieceId: string, store: PieceStore): PieceStore {
    this.pieces.delete(pieceId);
    this.pieces.set(pieceId, store);
    for (const [id, old] of [...this.pieces].slice(0, -REMEMBERED)) if (id !== pieceId) old.rest();
    return store;
  }
}
