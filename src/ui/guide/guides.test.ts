import { expect, test } from "@jest/globals";
import { readdirSync } from "node:fs";
import path from "node:path";
import { pagesFor } from "../search/pages";
import { guideOf, screenOf } from "./guides";

const ID = "0190a0b0-1111-7222-8333-444455556666";
const KINDS = ["teacher", "student", "guardian", "office"] as const;
/** Every page of a school, as its address has it. */
const SCHOOL = path.join(process.cwd(), "src/app/(school)");
const PAGES = readdirSync(SCHOOL, { recursive: true, encoding: "utf8" })
  .filter((file) => path.basename(file) === "page.tsx")
  .map((file) => `/${path.dirname(file)}`.replace(/\[\w+\]/g, ID));

test("every page says what it is for to someone; the Desk has a card of its own", () => {
  expect(PAGES.length).toBeGreaterThan(40);
  const silent = PAGES.filter((page) => KINDS.every((kind) => !guideOf(kind, page)));
  expect(silent).toEqual(["/desk"]);
});

test("every page that the finder leads a person to says what it is for to them", () => {
  const silent = KINDS.flatMap((kind) =>
    pagesFor(kind)
      .map(({ href }) => href.split("?")[0]!)
      .filter((href) => href !== "/desk" && !guideOf(kind, href))
      .map((href) => `${kind} ${href}`),
  );
  expect(silent).toEqual([]);
});

test("a screen is named by its address, whatever it is about", () => {
  expect(screenOf(`/ledger/${ID}/grades/${ID}`)).toBe("/ledger/[id]/grades/[id]");
  expect(guideOf("student", "/today")).toBeUndefined();
});
