import { sayProblem } from "../../client";
import { isSignedOut, untilAnswered } from "../../keeping/reach";
import type { World } from "../../keeping/world";
import { joined, laneOf, type Change } from "./changes";

/** A change on its way. `onWire`: it is being asked at this moment, so nothing can be joined to it. */
export type Waiting = { change: Change; onWire: boolean };

const TAKEN_BACK = new Error("taken back");

type Hooks = {
  /** Asks the server for one change. */
  send: (change: Change) => Promise<(answered: Change) => void>;
  onChanged: () => void;
  /** The server said no to a change; those behind it in its lane fell with it. */
  onRefused: (dropped: Change[], why: string) => void;
  /** What must be said though nothing was refused: one has to sign in again. */
  onHeld: (why: string) => void;
};

/**
 * Changes to the marks of one piece on their way to the server: each is on the device before it is on the wire, and
 * leaves it only when the server has said something to it. Changes to one mark go in their order; two that the server
 * knows nothing of yet are joined into one.
 */
export class Lanes {
  private readonly lanes = new Map<string, Waiting[]>();
  private readonly running = new Map<string, Promise<void>>();
  private held = 0;

  constructor(
    private readonly pieceId: string,
    private readonly world: World,
    private readonly hooks: Hooks,
  ) {}

  /** In the order in which they were made, lane by lane. */
  all(): Change[] {
    return [...this.lanes.values()].flatMap((lane) => lane.map((w) => w.change));
  }
  /** Nobody has answered some of them, and they are asked again. */
  get waits(): boolean {
    return this.held > 0;
  }
  has(lane: string): boolean {
    return this.lanes.has(lane);
  }
  get isEmpty(): boolean {
    return this.lanes.size === 0;
  }

  push(change: Change): void {
    const key = laneOf(change);
    const lane = this.lanes.get(key) ?? [];
    const last = lane.at(-1);
    const one = last && !last.onWire ? joined(last.change, change) : undefined;
    if (last && one === null) lane.pop();
    else if (last && one) last.change = one;
    else lane.push({ change, onWire: false });
    if (lane.length > 0) this.lanes.set(key, lane);
    else this.lanes.delete(key);
    void this.keep(key);
    this.hooks.onChanged();
    if (lane.length > 0 && !this.running.has(key)) this.running.set(key, this.drain(key));
  }

  /** Everything in this lane has an answer. */
  async reached(lane: string): Promise<void> {
    await this.running.get(lane);
  }

  /** Everything that is on its way now has an answer, or the time is over. @returns whether all has */
  async settled(patienceMs: number): Promise<boolean> {
    let cancel = () => {};
    const over = new Promise<void>((resolve) => {
      cancel = this.world.after(patienceMs, resolve);
    });
    await Promise.race([Promise.all(this.running.values()), over]);
    cancel();
    return this.isEmpty;
  }

  /** What a tab that was closed had not sent. */
  async leftBehind(): Promise<Change[]> {
    const left = await this.world.device.keptUnder<Change>(this.prefix);
    return left
      .map(({ value }) => value)
      .filter((change) => change?.what && !this.lanes.has(laneOf(change)));
  }

  release(change: Change): Promise<void> {
    return this.world.device.release(this.prefix + laneOf(change));
  }

  private get prefix(): string {
    return `mark ${this.pieceId} `;
  }

  private async drain(key: string): Promise<void> {
    for (;;) {
      const head = this.lanes.get(key)?.[0];
      if (!head) {
        this.running.delete(key);
        return;
      }
      try {
        const settle = await untilAnswered(this.world, () => this.ask(key, head), this.count);
        this.take(key, head);
        settle(head.change);
        void this.keep(key);
        this.hooks.onChanged();
      } catch (error) {
        // It was taken back while nobody could be asked: there is nothing to say of it.
        if (error !== TAKEN_BACK) this.drop(key, error);
      }
    }
  }

  private async ask(key: string, head: Waiting): Promise<(answered: Change) => void> {
    if (this.lanes.get(key)?.[0] !== head) throw TAKEN_BACK;
    head.onWire = true;
    try {
      return await this.hooks.send(head.change);
    } finally {
      head.onWire = false;
    }
  }

  private readonly count = (waits: boolean): void => {
    this.held += waits ? 1 : -1;
    this.hooks.onChanged();
  };

  private take(key: string, head: Waiting): void {
    const rest = (this.lanes.get(key) ?? []).filter((w) => w !== head);
    if (rest.length > 0) this.lanes.set(key, rest);
    else this.lanes.delete(key);
  }

  private drop(key: string, error: unknown): void {
    const dropped = (this.lanes.get(key) ?? []).map((w) => w.change);
    this.lanes.delete(key);
    const why = sayProblem(error);
    // A session that ended is no answer to what was written: it stays on the device for the next time.
    if (isSignedOut(error)) this.hooks.onHeld(why);
    else {
      void this.keep(key);
      this.hooks.onRefused(dropped, why);
    }
    this.hooks.onChanged();
  }

  /** The device has what the lane would make of the mark in one step. */
  private async keep(key: string): Promise<void> {
    const lane = this.lanes.get(key);
    if (!lane) return this.world.device.release(this.prefix + key);
    const whole = lane.map((w) => w.change).reduce((first, then) => joined(first, then) ?? then);
    await this.world.device.keep(this.prefix + key, whole, 0);
  }
}
