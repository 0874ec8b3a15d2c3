import { describe, expect, test } from "@jest/globals";
import { DESK_COMMANDS } from "./commands";
import { CHORD, collides, faultInKey, isLetter, pressed } from "./keys";

const key = (of: string, held: Partial<Record<"ctrlKey" | "altKey" | "shiftKey", true>> = {}) =>
  pressed({ key: of, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held });

describe("keys of one sign (WCAG 2.2, 2.1.4, Character Key Shortcuts)", () => {
  test.each(["n", "Shift+V", "?", "1", "é", "#"])("%s is one", (one) => {
    expect(isLetter(one)).toBe(true);
  });
  test.each(["Enter", "Delete", "ArrowRight", "Shift+ArrowRight", "Ctrl+K", CHORD])(
    "%s is none",
    (one) => expect(isLetter(one)).toBe(false),
  );
  test("what is pressed is named as the list names it", () => {
    expect(isLetter(key("V", { shiftKey: true }))).toBe(true);
    expect(isLetter(key("k", { ctrlKey: true }))).toBe(false);
    expect(key(".", { ctrlKey: true })).toBe(CHORD);
  });
});

describe("a key of one's own", () => {
  test.each(["Ctrl+T", "Ctrl+W", "Ctrl+P", "Alt+D", "Alt+ArrowLeft", "F5", "Ctrl+1"])(
    "%s stays the browser's",
    (one) => expect(faultInKey("next", one, {})).toBe("Browsers keep this key for themselves."),
  );
  test("the key before letters, and another act's key, are taken", () => {
    expect(faultInKey("next", CHORD, {})).toBe("This key is needed as it is.");
    expect(faultInKey("next", "p", {})).toContain("previous piece");
    expect(faultInKey("next", "Ctrl+ArrowRight", {})).toBeNull();
  });
  test("no act comes with a key of a browser, and what collides is told", () => {
    for (const { id, key: own } of DESK_COMMANDS)
      expect([id, faultInKey(id, own, {})]).toEqual([id, null]);
    expect(collides("/")).toContain("browsers");
    expect(collides("n")).toBeNull();
  });
  test("no two acts have one key", () => {
    const keys = DESK_COMMANDS.map((command) => command.key);
    expect(new Set(keys).size).toBe(keys.length);
  });
});
