import { describe, expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { PIECE_STATES } from "@/core/pieces/life";
import { sayState } from "@/core/views/states";
import type { MoonView } from "@/core/views/views";
import { DESK_COMMANDS } from "../desk/commands/commands";
import { actOf, faultInKey } from "../desk/commands/keys";
import { sayEdit } from "@/core/marks/mark";
import { TextField } from "./Field";
import { Moon } from "./Moon";
import { Notice } from "./Notice";

const moon = (facts: Partial<MoonView>): MoonView => ({
  state: "not_opened",
  round: 1,
  late: false,
  missing: false,
  excused: false,
  ...facts,
});

describe("moons", () => {
  test("no two states look alike, and each says its words to readers", () => {
    const drawn = PIECE_STATES.map((state) =>
      renderToStaticMarkup(<Moon moon={moon({ state, round: state === "reworking" ? 2 : 1 })} />),
    );
    expect(
      new Set(drawn.map((svg) => svg.replace(/aria-label="[^"]*"|<title>[^<]*<\/title>/g, "")))
        .size,
    ).toBe(PIECE_STATES.length);
    PIECE_STATES.forEach((state, n) =>
      expect(drawn[n]).toContain(
        `aria-label="${sayState(moon({ state, round: state === "reworking" ? 2 : 1 }))}"`,
      ),
    );
  });
  test("late is a notch and a word, never colour alone", () => {
    const on = renderToStaticMarkup(<Moon moon={moon({ state: "handed_in" })} />);
    const late = renderToStaticMarkup(<Moon moon={moon({ state: "handed_in", late: true })} />);
    expect((late.match(/<path/g) ?? []).length).toBe((on.match(/<path/g) ?? []).length + 1);
    expect(late).toContain("handed in, late");
  });
  test("excused is a dash", () => {
    const svg = renderToStaticMarkup(<Moon moon={moon({ excused: true, missing: true })} />);
    expect(svg).toContain("<line");
    expect(svg).toContain('aria-label="excused"');
  });
  test.each<[Partial<MoonView>, string]>([
    [{ state: "handed_in", round: 2 }, "handed in again, round 2"],
    [{ state: "started", missing: true }, "started, missing"],
    [{ state: "to_revise", round: 3 }, "back to revise, round 3"],
    [{ state: "handed_back", excused: true }, "handed back"],
  ])("%j says %s", (facts, words) => expect(sayState(moon(facts))).toBe(words));
});

describe("fields and notices", () => {
  test("an error is tied to its field and announced", () => {
    const html = renderToStaticMarkup(<TextField label="Due" hint="A date" error="In the past." />);
    const id = /<input[^>]* id="([^"]+)"/.exec(html)?.[1] ?? /id="([^"]+)"/.exec(html)![1]!;
    expect(html).toContain(`for="${id}"`);
    expect(html).toContain(`aria-describedby="${id}-hint ${id}-error"`);
    expect(html).toContain('aria-invalid="true"');
    expect(html).toMatch(/role="alert"[^>]*>.*In the past\./);
  });
  test("what needs attention is an alert, the rest is said when there is time", () => {
    expect(renderToStaticMarkup(<Notice ink="ember">No</Notice>)).toContain('role="alert"');
    expect(renderToStaticMarkup(<Notice ink="moss">Yes</Notice>)).toContain('role="status"');
  });
});

describe("the keys of the Desk", () => {
  const press = (
    key: string,
    facts: object = {},
    target: { closest: (css: string) => unknown } = { closest: () => null },
  ) =>
    actOf(
      {
        key,
        ctrlKey: false,
        metaKey: false,
        altKey: false,
        shiftKey: false,
        target,
        ...facts,
      } as never,
      {},
    );
  test("every key has one act, and every act one key", () => {
    expect(new Set(DESK_COMMANDS.map((k) => k.key)).size).toBe(DESK_COMMANDS.length);
    expect(new Set(DESK_COMMANDS.map((k) => k.id)).size).toBe(DESK_COMMANDS.length);
    for (const { key, id: act } of DESK_COMMANDS)
      expect(
        press(key.replace(/^(Shift|Ctrl)\+(?=.)/, ""), {
          shiftKey: key.startsWith("Shift+"),
          ctrlKey: key.startsWith("Ctrl+"),
        }),
      ).toBe(act);
  });
  test("a key can be given to another act, unless it is taken or needed as it is", () => {
    expect(
      actOf(
        {
          key: "ö",
          ctrlKey: false,
          metaKey: false,
          altKey: false,
          shiftKey: false,
          target: null,
        } as never,
        { next: "ö" },
      ),
    ).toBe("next");
    expect(
      actOf(
        {
          key: "n",
          ctrlKey: false,
          metaKey: false,
          altKey: false,
          shiftKey: false,
          target: null,
        } as never,
        { next: "ö" },
      ),
    ).toBeNull();
    expect(faultInKey("next", "p", {})).toContain("previous piece");
    expect(faultInKey("next", "p", { previous: "P" })).toBeNull();
    expect(faultInKey("next", "3", {})).toContain("as it is");
  });
  test("keys in a field, in a dialog, and the browser's own are left alone", () => {
    const inField = { closest: (css: string) => (css.includes("textarea") ? {} : null) };
    expect(press("h", {}, inField)).toBeNull();
    expect(press("n", { ctrlKey: true })).toBeNull();
    expect(press("n", { altKey: true })).toBeNull();
    expect(
      press(
        "Enter",
        {},
        {
          closest: (css: string) => (css.includes("button") && !css.includes("input") ? {} : null),
        },
      ),
    ).toBeNull();
    expect(press("z", { ctrlKey: true })).toBe("undo");
  });
  test("marks are said in words", () => {
    const said = (kind: "insert" | "delete" | "replace" | "transpose", more: object = {}) =>
      sayEdit({ kind, quote: "old", replacement: "new", ...more } as never);
    expect([
      said("insert"),
      said("delete"),
      said("replace"),
      said("replace", { replacement: "" }),
      said("transpose"),
    ]).toEqual([
      "Put in “new” here.",
      "Take out “old”.",
      "Instead of “old”: “new”.",
      "Take out “old”.",
      "Change places: “old” becomes “new”.",
    ]);
  });
});
