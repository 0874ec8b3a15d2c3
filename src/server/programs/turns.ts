import { HttpProblem } from "../problem";

/** Somebody's piece of heavy work that waits for its turn. */
type Waiting = { begin: () => void };

/**
 * Turns for work that is heavy on the machine and is waited for in a request (looking into a file, speaking a
 * text): so many at once in all, one at a time for each person, and between persons in a round. Whoever
 * sends twenty files waits for them one after the other and keeps nobody else waiting.
 */
export class Turns {
  private running = 0;
  private readonly busy = new Set<string>();
  /** In the order in which persons come up next; each with what waits, first come first. */
  private readonly waiting = new Map<string, Waiting[]>();

  /**
   * @param atOnce works at most that run at the same time
   * @param most works of one person that may wait
   */
  constructor(
    private readonly atOnce: number,
    private readonly most: number,
  ) {}

  /**
   * Does the work when its turn has come.
   *
   * @throws HttpProblem 429 when too much of this person's waits already
   */
  async take<T>(person: string, work: () => Promise<T>): Promise<T> {
    const own = this.waiting.get(person) ?? [];
    if (own.length >= this.most)
      throw new HttpProblem(
        429,
        "Much of yours is still being looked at.",
        "Nothing was lost. Wait a moment, then try this one again.",
      );
    await new Promise<void>((begin) => {
      this.waiting.set(person, [...own, { begin }]);
      this.next();
    });
    try {
      return await work();
    } finally {
      this.running -= 1;
      this.busy.delete(person);
      this.behindTheOthers(person);
      this.next();
    }
  }

  /** Who had a turn goes to the end of the round. */
  private behindTheOthers(person: string): void {
    const own = this.waiting.get(person);
    this.waiting.delete(person);
    if (own) this.waiting.set(person, own);
  }

  private next(): void {
    for (const [person, own] of this.waiting) {
      if (this.running >= this.atOnce) return;
      if (this.busy.has(person)) continue;
      const [first, ...rest] = own;
      this.waiting.delete(person);
      if (rest.length > 0) this.waiting.set(person, rest);
      this.running += 1;
      this.busy.add(person);
      first!.begin();
    }
  }
}
