/** A sign on a page as it is drawn: its middle and its size, in pixels of the surface as it is shown. */
export type Sign = { x: number; y: number; w: number; h: number };

/** By how much a sign is drawn beside where it belongs, in pixels. */
export type Aside = { dx: number; dy: number };

/** Ways round a place that is taken, the nearest first; further rounds are as many steps further out. */
const ROUND = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
  [1, 1],
  [-1, 1],
  [1, -1],
  [-1, -1],
] as const;
const ROUNDS = 6;
/** More signs than this on one surface are not set apart: a picture has a few, and each is held against all before. */
const AT_MOST = 400;
const GAP = 2;

/**
 * Sets signs apart that would lie over each other, so that each can be read and pressed (WCAG 2.2, 2.5.8: a target of
 * 24 by 24 pixels that no other covers). The first keeps its place; each later one takes the free place nearest to
 * its own, inside the surface (`within`, pixels). Where nothing near is free a sign stays where it belongs.
 */
export function setApart(signs: readonly Sign[], within: { w: number; h: number }): Aside[] {
  const taken: Sign[] = [];
  return signs.map((sign) => {
    const aside = signs.length > AT_MOST ? null : freeNear(sign, taken, within);
    const { dx, dy } = aside ?? { dx: 0, dy: 0 };
    taken.push({ ...sign, x: sign.x + dx, y: sign.y + dy });
    return { dx, dy };
  });
}

function freeNear(sign: Sign, taken: readonly Sign[], within: { w: number; h: number }) {
  const free = ({ dx, dy }: Aside) => {
    const there = { ...sign, x: sign.x + dx, y: sign.y + dy };
    return !taken.some((other) => overlap(there, other));
  };
  if (free({ dx: 0, dy: 0 })) return { dx: 0, dy: 0 };
  const inside = ({ dx, dy }: Aside) =>
    sign.x + dx >= 0 && sign.x + dx <= within.w && sign.y + dy >= 0 && sign.y + dy <= within.h;
  for (let far = 1; far <= ROUNDS; far += 1)
    for (const [x, y] of ROUND) {
      const aside = { dx: x * far * (sign.w + GAP), dy: y * far * (sign.h + GAP) };
      if (inside(aside) && free(aside)) return aside;
    }
  return null;
}

function overlap(a: Sign, b: Sign): boolean {
  return Math.abs(a.x - b.x) < (a.w + b.w) / 2 && Math.abs(a.y - b.y) < (a.h + b.h) / 2;
}
