import { expect, test } from "@jest/globals";
import { pairItems } from "./pairs";

const item = (id: string, partId = "photos") => ({ id, partId, sha256: id[0]! });
const said = (before: ReturnType<typeof item>[], after: ReturnType<typeof item>[]) =>
  pairItems(before, after).map(
    (p) => `${p.before?.id ?? "–"} ${p.after?.id ?? "–"}${p.same ? " =" : ""}`,
  );

test.each([
  [
    ["a1", "b1"],
    ["a2", "b2"],
    ["a1 a2 =", "b1 b2 ="],
  ],
  // Turned round: what is the same belongs together.
  [
    ["a1", "b1"],
    ["b2", "a2"],
    ["b1 b2 =", "a1 a2 ="],
  ],
  // One taken anew, one as it was.
  [
    ["a1", "b1"],
    ["c2", "b2"],
    ["a1 c2", "b1 b2 ="],
  ],
  // Added, and taken out.
  [["a1"], ["a2", "d2"], ["a1 a2 =", "– d2"]],
  [["a1", "b1"], ["b2"], ["b1 b2 =", "a1 –"]],
  [[], [], []],
] as const)("%j then %j", (before, after, pairs) =>
  expect(
    said(
      before.map((id) => item(id)),
      after.map((id) => item(id)),
    ),
  ).toEqual(pairs),
);

test("a file of another part is another thing", () => {
  expect(said([item("a1", "photos")], [item("a2", "files")])).toEqual(["– a2", "a1 –"]);
});
