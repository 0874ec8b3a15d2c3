import { expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { WhenField } from "./WhenField";

const shown = (kind: "both" | "date" | "time", value: string) =>
  renderToStaticMarkup(<WhenField kind={kind} label="Due" value={value} onChange={() => {}} />)
    .replace(/<(style|template|input)[^>]*>/g, "")
    .replace(/<[^>]*>/g, "")
    .replace(/[\u2066-\u2069\u200e\u200f]/g, "");

test("days stand before months and hours go to 24, as everything that is shown is written", () => {
  expect(shown("both", "2026-12-03T09:05")).toContain("03/12/2026, 09:05");
  expect(shown("both", "2026-12-03T21:05")).toContain("21:05");
  expect(shown("date", "2026-02-28")).toContain("28/02/2026");
  expect(shown("time", "15:30")).toContain("15:30");
});

test("nothing typed yet shows what is typed where", () => {
  expect(shown("date", "")).toContain("dd/mm/yyyy");
});
