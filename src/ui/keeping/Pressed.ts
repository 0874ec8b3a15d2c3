import { Observable } from "./Observable";
import { backOff, isUnanswered } from "./reach";
import type { World } from "./world";

type How<Act, Answer> = {
  /** Under this name it is on the device. */
  key: string;
  /** Sends it; every attempt says the same, so that the server takes only one. */
  send: (act: Act) => Promise<Answer>;
};
type Told<Answer> = {
  onAnswered: (answer: Answer) => void;
  onRefused: (error: unknown) => void;
};
export type PressedState<Act> = {
  /** Pressed, and not answered yet. */
  act: Act | null;
  /** Somebody could be asked the last time. */
  reached: boolean;
};

/**
 * An act that is pressed once and must not be lost: it is on the device before it is sent, is sent until there is an
 * answer, also by a page that is opened later, and can be taken back for as long as nobody has answered.
 */
export class Pressed<Act, Answer> extends Observable<PressedState<Act>> {
  private forget: () => void = () => {};
  private attempts = 0;
  private sending = false;
  private ready = false;
  private told: Told<Answer> = { onAnswered: () => {}, onRefused: () => {} };

  constructor(
    private readonly how: How<Act, Answer>,
    private readonly world: World,
  ) {
    super({ act: null, reached: true });
  }

  /** Goes on with what an earlier page left. @returns what ends the trying */
  start(told: Told<Answer>): () => void {
    this.told = told;
    void this.world.device.kept<Act>(this.how.key).then((left) => {
      if (!left || this.state.act) return;
      this.set({ act: left.value });
      void this.attempt();
    });
    const asleep = this.world.onWake(() => void this.attempt());
    return () => {
      asleep();
      this.forget();
    };
  }

  async press(act: Act): Promise<void> {
    await this.world.device.keep(this.how.key, act, 0);
    this.attempts = 0;
    this.set({ act, reached: true });
    await this.attempt();
  }

  /** Goes on without it; nothing was sent. */
  readonly unpress = async (): Promise<void> => {
    this.forget();
    await this.world.device.release(this.how.key);
    this.set({ act: null });
  };

  /** Whether what it needs is there; until then it waits. */
  isReady(ready: boolean): void {
    const now = ready && !this.ready;
    this.ready = ready;
    if (now) void this.attempt();
  }

  private async attempt(): Promise<void> {
    const { act } = this.state;
    if (act === null || !this.ready || this.sending) return;
    this.forget();
    this.sending = true;
    try {
      const answer = await this.how.send(act);
      await this.over();
      this.told.onAnswered(answer);
    } catch (error) {
      await this.failed(error);
    } finally {
      this.sending = false;
    }
  }

  private async failed(error: unknown): Promise<void> {
    if (isUnanswered(error)) {
      this.set({ reached: false });
      this.forget = this.world.after(backOff(this.attempts), () => void this.attempt());
      this.attempts += 1;
      return;
    }
    await this.over();
    this.told.onRefused(error);
  }

  private async over(): Promise<void> {
    await this.world.device.release(this.how.key);
    this.set({ act: null, reached: true });
  }
}
