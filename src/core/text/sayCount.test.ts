import { expect, test } from "@jest/globals";
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { sayCount } from "./sayCount";

test("one is one, and none are many", () => {
  expect([0, 1, 2].map((n) => sayCount(n, "student"))).toEqual([
    "0 students",
    "1 student",
    "2 students",
  ]);
  expect(sayCount(2, "child", "children")).toBe("2 children");
});

/** Numbers before these are told to people; a limit in capitals is never one. */
const THINGS =
  "students|pieces|marks|words|requests|sections|files|people|rows|comments|scores|answers|questions|notes|things|lessons|hand-outs|points";
const PLURAL = new RegExp(`\\{([^{}]*)\\}(?:\\{" "\\})? (?:${THINGS})\\b`, "g");
const FIXED = /LIMITS|MOST|most|=== 1|toLocaleString|total|possible|points|least/;

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const file = path.join(folder, entry.name);
    if (entry.isDirectory()) return sources(file);
    return /\.tsx?$/.test(entry.name) && !/\.test(ing)?\./.test(entry.name) ? [file] : [];
  });

test("nothing that people read says 1 students", () => {
  const found = sources(path.join(process.cwd(), "src")).flatMap((file) =>
    [...readFileSync(file, "utf8").matchAll(PLURAL)]
      .filter(([, inside]) => !FIXED.test(inside!) && !/^\s*(\.\.\.|props|r\b)/.test(inside!))
      // An attribute (`marks={drawn} words="…"`) is no sentence, and where one is asked about beside it, it is seen to.
      .filter(({ index, input }) => {
        const before = input.slice(0, index).split("\n").slice(-4).join("\n");
        return !/=$/.test(before) && !/=== "?1|> 1/.test(before);
      })
      .map(([said]) => `${path.relative(process.cwd(), file)}: ${said}`),
  );
  expect(found).toEqual([]);
});

test("nothing that people read in quotation marks is cut without a sign of it (see `shorten`)", () => {
  const cut = /“\$?\{[^{}]*\.slice\(0, \d+\)\}”/g;
  const found = sources(path.join(process.cwd(), "src")).flatMap((file) =>
    [...readFileSync(file, "utf8").matchAll(cut)].map(
      ([said]) => `${path.relative(process.cwd(), file)}: ${said}`,
    ),
  );
  expect(found).toEqual([]);
});
