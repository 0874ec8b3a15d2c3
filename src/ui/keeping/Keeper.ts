import { Problem } from "../client";
import { Observable } from "./Observable";
import { backOff, isSignedOut, isUnanswered } from "./reach";
import type { World } from "./world";

/** What one kind of thing says of itself to be kept and sent; all else is the same for all of them. */
export type Keeping<Value, Answer extends { revision: number }> = {
  /** Under this name it is on the device. */
  key: string;
  /** So long after the last change it is sent. */
  pauseMs: number;
  send: (value: Value, revision: number) => Promise<Answer>;
  isSame: (a: Value, b: Value) => boolean;
  /** What the server has instead, from its answer that it was changed elsewhere (412). */
  theirs: (problem: Problem) => { value: Value; revision: number };
  /** What it stands on the device as, where older pages kept it in another shape. */
  onDevice?: {
    write: (value: Value, unsent: boolean) => unknown;
    read: (kept: never) => OnDevice<Value> | null;
  };
  /** The copy stays on the device after it was sent, for a page that is opened without a connection. */
  staysOnDevice?: boolean;
  onSent?: (answer: Answer, value: Value) => void;
};
export type OnDevice<Value> = { value: Value; unsent: boolean };

/**
 * - `saved`: the server has it. `changed`: on the device, to be sent in a moment. `sending`: on its way.
 * - `waiting`: no answer; it goes by itself. `refused`: the server said no; it is on the device.
 * - `conflict`: it was changed elsewhere; both are here until one is chosen.
 */
export type Stage = "saved" | "changed" | "sending" | "waiting" | "refused" | "conflict";
export type KeeperState<Value> = {
  value: Value;
  revision: number;
  stage: Stage;
  /** When the server had it last, in this tab. */
  sentAt: Date | null;
  /** The device keeps nothing (a private window, no room): then only the server's copy protects. */
  deviceKeeps: boolean;
  /** Why it was refused. */
  problem: unknown;
  theirs: { value: Value; revision: number } | null;
};

/**
 * One thing that is written and kept: on the device with each change, on the server a moment later, in order, again
 * until there is an answer. Nothing is overwritten: what was changed elsewhere is shown beside it until one of the
 * two is chosen. The stage says only what is true at that moment.
 */
export class Keeper<Value, Answer extends { revision: number }> extends Observable<
  KeeperState<Value>
> {
  private unsent = false;
  private attempts = 0;
  private chain: Promise<boolean> = Promise.resolve(true);
  private forget: () => void = () => {};
  private asleep: () => void = () => {};
  private stopped = false;

  constructor(
    private readonly how: Keeping<Value, Answer>,
    first: { value: Value; revision: number },
    private readonly world: World,
  ) {
    super({
      ...first,
      stage: "saved",
      sentAt: null,
      deviceKeeps: true,
      problem: null,
      theirs: null,
    });
  }

  /** From here on it wakes when there may be a connection. @returns what ends it; what waits is sent once more */
  start(): () => void {
    this.asleep = this.world.onWake(() => void (this.state.stage === "waiting" && this.flush()));
    return () => {
      this.asleep();
      this.forget();
      if (this.state.stage === "changed" || this.state.stage === "waiting") void this.flush();
    };
  }

  change(make: (old: Value) => Value): void {
    this.unsent = true;
    this.set({ value: make(this.state.value), stage: this.state.theirs ? "conflict" : "changed" });
    void this.onDevice().then((ok) => ok || this.set({ deviceKeeps: false }));
    if (!this.state.theirs) this.sendIn(this.how.pauseMs);
  }

  /** Sends what is not sent now. @returns whether the server has everything */
  readonly flush = (): Promise<boolean> => {
    this.forget();
    this.chain = this.chain.then(() => this.send());
    return this.chain;
  };

  /** Nothing is on its way any more. */
  async settled(): Promise<KeeperState<Value>> {
    this.forget();
    await this.chain;
    return this.state;
  }

  /** What a closed tab left: put back, or shown beside what the server has since. @returns what was put back */
  async recover(): Promise<Value | null> {
    const found = await this.world.device.kept<unknown>(this.how.key);
    if (!found) return null;
    const left = this.readDevice(found.value);
    if (!left || this.unsent || this.how.isSame(left.value, this.state.value)) return null;
    const { value, revision } = this.state;
    // The page itself may be an old one, opened without a connection: then the device knows better.
    if (!left.unsent && found.revision <= revision) return null;
    this.unsent = true;
    if (found.revision < revision) {
      this.set({ value: left.value, stage: "conflict", theirs: { value, revision } });
      return left.value;
    }
    this.unsent = left.unsent;
    this.set({
      value: left.value,
      revision: found.revision,
      stage: left.unsent ? "changed" : "saved",
    });
    if (left.unsent) void this.flush();
    return left.value;
  }

  /** Goes on with one of two; the other is not touched until the next sending. @returns the one chosen */
  choose(which: "mine" | "theirs"): Value {
    const { theirs, value } = this.state;
    if (!theirs) return value;
    this.set({ revision: theirs.revision, theirs: null });
    if (which === "theirs") {
      this.hasIt(theirs.value, theirs.revision);
      return theirs.value;
    }
    this.unsent = true;
    this.set({ stage: "changed" });
    void this.onDevice();
    void this.flush();
    return value;
  }

  /** The server has this now, by another act or by someone else's; what is not sent here stays. */
  hasIt(value: Value, revision: number): void {
    this.unsent = false;
    this.forget();
    this.set({ value, revision, stage: "saved", problem: null, theirs: null });
    void (this.how.staysOnDevice ? this.onDevice() : this.world.device.release(this.how.key));
  }

  /** Another act stored what is here, or a part of it. */
  storedAs(revision: number): void {
    this.set({ sentAt: this.world.now() });
    this.hasIt(this.state.value, revision);
  }

  /** It was changed elsewhere, as another act found out. */
  conflictWith(theirs: { value: Value; revision: number }): void {
    this.forget();
    this.set({ stage: "conflict", theirs });
  }

  /** Someone else's newer one is taken over, unless something of one's own waits. */
  takeOver(value: Value, revision: number): void {
    if (revision > this.state.revision && !this.unsent) this.hasIt(value, revision);
  }

  /** Another act took it over whole (it is handed in): nothing of it is to be sent, and the server counts one on. */
  handedOver(): void {
    this.unsent = false;
    this.forget();
    this.set({ revision: this.state.revision + 1, stage: "saved", theirs: null });
    void this.world.device.release(this.how.key);
  }

  get isUnsent(): boolean {
    return this.unsent;
  }

  /** Nothing of it is sent or kept any more: it is handed out, or thrown away. */
  async stop(): Promise<void> {
    this.stopped = true;
    this.forget();
    await this.chain;
    this.unsent = false;
    await this.world.device.release(this.how.key);
  }

  private async send(): Promise<boolean> {
    if (!this.unsent || this.stopped) return !this.unsent;
    if (this.state.theirs) return false;
    const { value, revision } = this.state;
    this.set({ stage: "sending", problem: null });
    try {
      const answer = await this.how.send(value, revision);
      await this.sent(value, answer);
      return true;
    } catch (error) {
      return this.failed(error);
    }
  }

  private async sent(value: Value, answer: Answer): Promise<void> {
    this.attempts = 0;
    const newer = this.state.value !== value;
    this.unsent = newer;
    this.set({
      revision: answer.revision,
      sentAt: this.world.now(),
      stage: newer ? "changed" : "saved",
    });
    this.how.onSent?.(answer, value);
    if (newer || this.how.staysOnDevice) await this.onDevice();
    else await this.world.device.release(this.how.key);
  }

  private failed(error: unknown): boolean {
    if (error instanceof Problem && error.status === 412) {
      this.set({ stage: "conflict", theirs: this.how.theirs(error) });
    } else if (isUnanswered(error)) {
      this.set({ stage: "waiting" });
      this.sendIn(backOff(this.attempts));
      this.attempts += 1;
    } else {
      this.set({ stage: isSignedOut(error) ? "waiting" : "refused", problem: error });
    }
    return false;
  }

  private sendIn(ms: number): void {
    this.forget();
    this.forget = this.world.after(ms, () => void this.flush());
  }

  private onDevice(): Promise<boolean> {
    const { value, revision } = this.state;
    const write = this.how.onDevice?.write;
    const kept = write ? write(value, this.unsent) : { value, unsent: this.unsent };
    return this.world.device.keep(this.how.key, kept, revision);
  }

  private readDevice(kept: unknown): OnDevice<Value> | null {
    if (this.how.onDevice) return this.how.onDevice.read(kept as never);
    return (kept as OnDevice<Value> | null)?.value === undefined ? null : (kept as OnDevice<Value>);
  }
}
