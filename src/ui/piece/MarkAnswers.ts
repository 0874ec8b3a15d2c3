import type { AnsweredMark } from "@/core/views/views";
import { sayProblem } from "../client";
import { Observable } from "../keeping/Observable";
import { isSignedOut, untilAnswered } from "../keeping/reach";
import type { World } from "../keeping/world";

/** What a student does about a mark: a request ticked or not, an edit accepted, declined, or neither. */
export type Given = {
  request: "open" | "done" | null;
  decision: "accepted" | "declined" | null;
};
export type Shown = Pick<AnsweredMark, "request" | "decision">;
type Send = (markId: string, given: Given) => Promise<{ openRequests: number }>;
type Told = {
  /** What the page shows of a mark now. */
  shown: (markId: string) => Shown | undefined;
  show: (markId: string, what: Shown) => void;
  onAnswered: (openRequests: number) => void;
};
export type MarkAnswersState = {
  /** Some of them the server does not have yet. */
  waits: boolean;
  problem: string | null;
};
type Lane = { given: Given; before: Shown; done: Promise<boolean> };

const ENDED = new Error("the page was left");

/**
 * What a student answers to the marks of one piece: shown at once, on the device before it is on the wire, sent until
 * there is an answer, also by a page that is opened later; for each mark what was said last. A no of the server is shown,
 * and the mark stands as it stood before.
 */
export class MarkAnswers extends Observable<MarkAnswersState> {
  private readonly lanes = new Map<string, Lane>();
  private told: Told | null = null;
  private run = 0;

  constructor(
    private readonly pieceId: string,
    private readonly send: Send,
    private readonly world: World,
  ) {
    super({ waits: false, problem: null });
  }

  /** Goes on with what an earlier page left. @returns what ends the sending; what waits stays on the device */
  start(told: Told): () => void {
    this.told = told;
    const run = (this.run += 1);
    void this.recover(run);
    return () => {
      this.run += 1;
      this.lanes.clear();
    };
  }

  /** @returns whether the server took it, or what was said after it; false: it said no */
  answer(markId: string, given: Given): Promise<boolean> {
    const before = this.told?.shown(markId);
    if (!before) return Promise.resolve(false);
    this.told?.show(markId, { request: given.request ?? before.request, decision: given.decision });
    const lane = this.lanes.get(markId);
    if (lane) lane.given = given;
    void this.world.device.keep(this.keyOf(markId), given, 0);
    return lane ? lane.done : this.begin(markId, given, before);
  }

  private keyOf(markId: string): string {
    return `answer ${this.pieceId} ${markId}`;
  }

  private async recover(run: number): Promise<void> {
    const left = await this.world.device.keptUnder<Given>(`answer ${this.pieceId} `);
    for (const { key, value } of left) {
      const markId = key.split(" ").at(-1)!;
      if (run !== this.run || this.lanes.has(markId)) continue;
      if (this.told?.shown(markId)) void this.answer(markId, value);
      else await this.world.device.release(key);
    }
  }

  private begin(markId: string, given: Given, before: Shown): Promise<boolean> {
    const lane: Lane = { given, before, done: Promise.resolve(true) };
    this.lanes.set(markId, lane);
    this.set({ waits: true });
    lane.done = this.drain(markId, lane, this.run);
    return lane.done;
  }

  private async drain(markId: string, lane: Lane, run: number): Promise<boolean> {
    try {
      for (let sent: Given | null = null; sent !== lane.given;) {
        sent = lane.given;
        const { openRequests } = await untilAnswered(
          this.world,
          () => this.ask(markId, lane.given, run),
          () => {},
        );
        this.told?.onAnswered(openRequests);
      }
      this.set({ problem: null });
    } catch (error) {
      if (error === ENDED) return true;
      this.set({ problem: sayProblem(error) });
      const taken = isSignedOut(error);
      this.over(markId);
      // Who must sign in again has said it all the same: it waits on the device.
      if (taken) return true;
      this.told?.show(markId, lane.before);
      await this.world.device.release(this.keyOf(markId));
      return false;
    }
    this.over(markId);
    await this.world.device.release(this.keyOf(markId));
    return true;
  }

  private ask(markId: string, given: Given, run: number) {
    if (run !== this.run) throw ENDED;
    return this.send(markId, given);
  }

  private over(markId: string): void {
    this.lanes.delete(markId);
    this.set({ waits: this.lanes.size > 0 });
  }
}
