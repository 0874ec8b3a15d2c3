import { describe, expect, test } from "@jest/globals";
import { addressed, answerAddress, codeOfAddress, withoutQuoted } from "./letter";

describe("who gets a letter", () => {
  const KNOWN = [
    { studentId: "a", guardians: ["g", "h"] },
    { studentId: "b", guardians: ["g"] },
    { studentId: "c", guardians: [] },
  ];
  const pairs = (to: "students" | "guardians" | "both") =>
    addressed(KNOWN, to).map(({ personId, studentId }) => `${personId}/${studentId}`);
  test("students their own, guardians one a child, both each once", () => {
    expect(pairs("students")).toEqual(["a/a", "b/b", "c/c"]);
    expect(pairs("guardians")).toEqual(["g/a", "h/a", "g/b"]);
    expect(pairs("both")).toEqual(["a/a", "g/a", "h/a", "b/b", "g/b", "c/c"]);
    expect(addressed([KNOWN[0]!, KNOWN[0]!], "both")).toHaveLength(3);
  });
});

describe("an answer by mail (quoting and signatures as in RFC 3676, sections 4.3 and 4.5)", () => {
  test("what it quotes and signs with is left out", () => {
    const mail = [
      "Thank you, she hands it in tomorrow.",
      "",
      "On Tue, 3 Nov 2026 at 16:12, Almanac wrote:",
      "> Dear all,",
      ">> of an earlier one",
      "",
      "And one more thing: she was ill.",
      "-- ",
      "Katri Kallas",
    ].join("\r\n");
    expect(withoutQuoted(mail)).toBe(
      "Thank you, she hands it in tomorrow.\n\n\nAnd one more thing: she was ill.",
    );
  });
  test("words that only look like it stay", () => {
    expect(withoutQuoted("On Monday she wrote:\nnothing at all")).toBe(
      "On Monday she wrote:\nnothing at all",
    );
    expect(withoutQuoted("a > b")).toBe("a > b");
    expect(withoutQuoted("> only quoted")).toBe("");
  });
});

test("the address an answer comes back to carries its code, and nothing else is taken for one", () => {
  const address = answerAddress("k3xq9a", "almanac@tern.example");
  expect(address).toBe("answers+k3xq9a@tern.example");
  expect(codeOfAddress(address)).toBe("k3xq9a");
  expect(codeOfAddress("ANSWERS+K3XQ9A@tern.example")).toBe("k3xq9a");
  expect([codeOfAddress("answers@tern.example"), codeOfAddress("x+k3xq9a@y")]).toEqual([
    null,
    null,
  ]);
});
