import { expect, test } from "@jest/globals";
import { Turns } from "./turns";

const held = () => {
  let end = () => {};
  const done = new Promise<void>((resolve) => (end = resolve));
  return { done, end };
};
const settle = () => new Promise((resolve) => setImmediate(resolve));

test("one person's many works run one at a time, and another's is not behind them", async () => {
  const turns = new Turns(2, 10);
  const begun: string[] = [];
  const locks = Array.from({ length: 4 }, held);
  const works = locks.map((lock, n) =>
    turns.take("ada", async () => {
      begun.push(`ada ${n}`);
      await lock.done;
    }),
  );
  const other = turns.take("ben", async () => void begun.push("ben"));
  await other;
  expect(begun).toEqual(["ada 0", "ben"]);
  for (const lock of locks) lock.end();
  await Promise.all(works);
  expect(begun).toEqual(["ada 0", "ben", "ada 1", "ada 2", "ada 3"]);
});

test("between persons it goes round", async () => {
  const turns = new Turns(1, 10);
  const order: string[] = [];
  const first = held();
  const works = ["a", "a", "a", "b", "b", "c"].map((who, n) =>
    turns.take(who, async () => {
      order.push(who);
      if (n === 0) await first.done;
    }),
  );
  first.end();
  await Promise.all(works);
  expect(order).toEqual(["a", "b", "c", "a", "b", "a"]);
});

test("more than may wait is refused with words, and a failed work gives its turn on", async () => {
  const turns = new Turns(1, 1);
  const lock = held();
  const running = turns.take("a", () => lock.done);
  await settle();
  const waiting = turns.take("a", () => Promise.reject(new Error("broken")));
  await expect(turns.take("a", () => Promise.resolve())).rejects.toMatchObject({ status: 429 });
  lock.end();
  await running;
  await expect(waiting).rejects.toThrow("broken");
  await expect(turns.take("a", () => Promise.resolve(7))).resolves.toBe(7);
});
