import { allItSays, wholeMark, type MarkChange } from "@/core/marks/schema";
import type { DeskPiece, DraftMark } from "@/core/views/deskViews";
import { sayProblem } from "../../client";
import { Observable } from "../../keeping/Observable";
import type { World } from "../../keeping/world";
import {
  NOTHING_TO_MARK,
  applied,
  inverseOf,
  laneOf,
  stillHolds,
  wordsOf,
  type Change,
  type Ruling,
} from "./changes";
import { ask, type Answered, type DeskApi } from "./deskApi";
import { Lanes } from "./Lanes";
import type { NewMark, PieceState } from "./pieceState";

export type { NewMark, PieceState } from "./pieceState";

/** So long a piece that was read ahead is taken as it is. */
const FRESH_MS = 30_000;
/** So long a hand-back waits for marks that are still on their way. */
const PATIENCE_MS = 8000;
const CHANGED_SINCE = "Someone changed this since, so it is left as it is now.";

/**
 * One piece at the Desk: what the server has, and on top of it the changes that are on their way. Changes show at
 * once; each can be taken back and done again without limit, also before the server has answered and without a
 * connection, since taking back is a change like any other. What is refused is said with the words that were written.
 */
export class PieceStore extends Observable<PieceState> {
  private base: DeskPiece | undefined;
  private readonly lanes: Lanes;
  /** The newest revision of each mark, deleted ones too: what a change must name, however it came about. */
  private readonly revisions = new Map<string, number>();
  private done: Change[] = [];
  private undone: Change[] = [];
  private reading: Promise<void> | null = null;
  private recovered = false;
  private readAt: Date | null = null;
  /** Told of each act that can be taken back. */ onActed = (): void => {};

  constructor(
    readonly pieceId: string,
    private readonly api: DeskApi,
    private readonly world: World,
    private readonly newId: () => string = () => crypto.randomUUID(),
  ) {
    super({ piece: undefined, failed: null, problem: null, waits: false });
    this.lanes = new Lanes(pieceId, world, {
      send: (change) => this.send(change),
      onChanged: () => this.show(),
      onRefused: (dropped, why) => this.refused(dropped, why),
      onHeld: (why) => this.say(why),
    });
  }

  /** Reads the piece as the server has it now; what waits stays on top of it. */
  readonly load = (): Promise<void> => {
    this.reading ??= this.read().finally(() => {
      this.reading = null;
    });
    return this.reading;
  };

  /** The piece is known already: it came with the page. */
  begin(piece: DeskPiece): void {
    this.base = piece;
    this.readAt = this.world.now();
    this.note(piece.marks);
    this.show();
    void this.recover();
  }

  readonly say = (problem: string | null): void => this.set({ problem });

  /** Changes what is shown besides marks: what the server has of it is known already. */
  readonly patch = (change: (old: DeskPiece) => DeskPiece): void => {
    if (!this.base) return;
    this.base = change(this.base);
    this.show();
  };

  /** @returns the mark as it stands now; null, and said, where there is nothing to put it on */
  readonly add = (given: NewMark): DraftMark | null => {
    const versionId = this.base?.versionId;
    if (!versionId) {
      this.say(NOTHING_TO_MARK);
      return null;
    }
    const { commentId = null, ...said } = given;
    const mark: DraftMark = {
      ...wholeMark({ ...said, id: this.newId() }),
      commentId,
      by: "",
      againOf: null,
      revision: 0,
    };
    this.act({ what: "add", mark, versionId });
    return mark;
  };

  readonly change = (mark: DraftMark, given: MarkChange): void => {
    const before = this.state.piece?.marks.find((m) => m.id === mark.id) ?? mark;
    this.act({ what: "put", mark: { ...before, ...given }, before });
  };

  readonly removeMark = (mark: DraftMark): void => {
    const now = this.state.piece?.marks.find((m) => m.id === mark.id) ?? mark;
    this.act({ what: "remove", mark: now });
  };

  readonly rule = (markId: string, ruling: Ruling, likely?: boolean): void => {
    const before = this.state.piece?.earlier.find((m) => m.id === markId)?.ruling ?? null;
    this.act({ what: "rule", markId, ruling, before, ...(likely ? { likely } : {}) });
  };

  /** Takes the last change back. @returns false where there is none */
  readonly undo = (): boolean => this.step(this.done, this.undone);
  /** Does the change again that was taken back last. @returns false where there is none */
  readonly redo = (): boolean => {
    if (!this.step(this.undone, this.done)) return false;
    this.onActed();
    return true;
  };

  /** Everything done to this piece's marks has reached the server; if it cannot, that is said. */
  readonly settled = async (): Promise<boolean> => {
    if (await this.lanes.settled(PATIENCE_MS)) return true;
    this.say(
      "There is no connection just now, so nothing was handed back. Your marks are kept on this device and go by themselves when it is back.",
    );
    return false;
  };

  /** The mark as the server has it, as soon as it does; null where it was refused or taken away again. */
  readonly whenKept = async (markId: string): Promise<DraftMark | null> => {
    await this.lanes.reached(markId);
    return this.base?.marks.find((m) => m.id === markId) ?? null;
  };

  /** Runs another act about this piece; when it fails, that is said, and the piece is read again. */
  readonly attempt = async <T>(work: () => Promise<T>): Promise<T | null> => {
    try {
      const answer = await work();
      this.say(null);
      return answer;
    } catch (error) {
      this.say(sayProblem(error));
      await this.load();
      return null;
    }
  };

  /** Lets go of the piece itself, which is read again when it is asked for; what was done to it stays known. */
  rest(): void {
    if (!this.lanes.isEmpty || this.isWatched) return;
    this.base = undefined;
    this.set({ piece: undefined });
  }

  /** It was not read yet, was let go of, or was read so long ago that it is read again when it is looked at. */
  get isStale(): boolean {
    if (this.reading) return false;
    return !this.base || this.world.now().getTime() - (this.readAt?.getTime() ?? 0) > FRESH_MS;
  }

  /** The piece, as soon as it is read. */
  readonly whenRead = async (): Promise<DeskPiece | undefined> => {
    await this.reading;
    return this.base;
  };

  private act(change: Change): void {
    this.done.push(change);
    this.undone = [];
    this.onActed();
    this.state = { ...this.state, problem: null };
    this.go(change);
  }

  /** A mark that the server never heard of is not changed but added. */
  private go(change: Change): void {
    const versionId = this.base?.versionId;
    const isNew =
      change.what === "put" &&
      !this.revisions.has(change.mark.id) &&
      !this.lanes.has(change.mark.id);
    if (isNew && versionId) this.lanes.push({ what: "add", mark: change.mark, versionId });
    else this.lanes.push(change);
  }

  /** Turns the newest change of one pile round and lays it on the other. */
  private step(from: Change[], to: Change[]): boolean {
    const change = from.pop();
    const piece = this.state.piece;
    if (!change || !piece) return false;
    if (!stillHolds(piece, change)) {
      this.say(CHANGED_SINCE);
      return true;
    }
    const inverse = inverseOf(change);
    to.push(inverse);
    this.go(inverse);
    return true;
  }

  private async send(change: Change): Promise<(answered: Change) => void> {
    const revision = this.revisions.get(laneOf(change)) ?? 0;
    const answer = await ask(this.api, this.pieceId, change, revision);
    return () => this.hear(change, answer);
  }

  private hear(change: Change, answer: Answered): void {
    if ("marks" in answer) {
      this.note(answer.marks);
      this.patch((old) => ({ ...old, ...answer }));
    } else if (change.what === "rule") return;
    else if ("mark" in answer) this.has(change.mark, answer.mark);
    else this.hasNot(change.mark);
  }

  /** The server has a mark as it was sent; it may have made more of it (a comment brings its voice). */
  private has(sent: DraftMark, mark: DraftMark): void {
    this.note([mark]);
    const told = (c: Change): Change => {
      if (c.what === "rule" || c.mark.id !== mark.id) return c;
      const now = (m: DraftMark) => (allItSays(m) === allItSays(sent) ? mark : m);
      return c.what === "put"
        ? { ...c, mark: now(c.mark), before: c.before && now(c.before) }
        : { ...c, mark: now(c.mark) };
    };
    this.done = this.done.map(told);
    this.undone = this.undone.map(told);
    this.patch((old) => applied(old, { what: "put", mark, before: null }));
  }

  private hasNot(mark: DraftMark): void {
    const known = this.revisions.get(mark.id) ?? mark.revision;
    this.revisions.set(mark.id, Math.max(known, mark.revision) + 1);
    this.patch((old) => applied(old, { what: "remove", mark }));
    // Deleting what was asked again takes the ruling with it.
    if (mark.againOf) void this.load();
  }

  private note(marks: readonly DraftMark[]): void {
    for (const { id, revision } of marks)
      this.revisions.set(id, Math.max(this.revisions.get(id) ?? 0, revision));
  }

  /** What was refused, and what stood on it, did not happen: it can neither be undone nor done again. */
  private refused(dropped: readonly Change[], why: string): void {
    const fell = new Set(dropped.map(laneOf));
    const stands = (change: Change) => !fell.has(laneOf(change));
    this.done = this.done.filter(stands);
    this.undone = this.undone.filter(stands);
    const words = dropped.map(wordsOf).filter(Boolean).at(-1);
    this.say(words ? `${why} You wrote: “${words}”` : why);
    void this.load();
  }

  private async read(): Promise<void> {
    try {
      const piece = await this.api.read(this.pieceId);
      this.base = piece;
      this.readAt = this.world.now();
      this.note(piece.marks);
      this.set({ failed: null });
      this.show();
      void this.recover();
    } catch (error) {
      if (!this.base) this.set({ failed: sayProblem(error) });
    }
  }

  /** What a tab that was closed without a connection had not sent goes now. */
  private async recover(): Promise<void> {
    if (this.recovered) return;
    this.recovered = true;
    for (const change of await this.lanes.leftBehind()) {
      const known = "mark" in change && this.base?.marks.some((m) => m.id === change.mark.id);
      // It is settled already: what the closed tab had left of it is not needed.
      if ((change.what === "put" || change.what === "remove") && !known)
        void this.lanes.release(change);
      else this.lanes.push(change);
    }
  }

  private show(): void {
    const piece = this.base && this.lanes.all().reduce(applied, this.base);
    this.set({ piece, waits: this.lanes.waits });
  }
}
