import { describe, expect, test } from "@jest/globals";
import { object } from "yup";
import { bankToCsv, bankToJson, readBankText, toEntry } from "../formats/commentBank";
import { everyFieldComment } from "./everyField.testing";
import {
  COMMENT_BODY,
  COMMENT_TABLE,
  commentBodyOf,
  fullComment,
  leanComment,
  wholeComment,
} from "./schema";

describe("every field of a comment goes through every copy", () => {
  const comment = everyFieldComment();
  test("kept and read again; what is not a field of it stays behind", () => {
    expect(wholeComment(JSON.parse(JSON.stringify({ ...comment, usedCount: 3 })))).toEqual(comment);
  });
  test("as it is sent, and at the way in", () => {
    const body = commentBodyOf(comment);
    expect(object(COMMENT_BODY).noUnknown().validateSync(body, { strict: true })).toEqual(body);
    expect(wholeComment(body)).toEqual(comment);
  });
  test.each([
    ["CSV", bankToCsv([toEntry(comment)])],
    ["JSON", bankToJson([toEntry(comment)])],
  ])("out and in again as %s: all that belongs in a file", (_as, file) => {
    const { entries, faults } = readBankText(file);
    expect(faults).toEqual([]);
    const back = wholeComment(entries[0]!);
    for (const [field, { fileColumn, nothing }] of COMMENT_TABLE)
      expect([field, back[field]]).toEqual([field, fileColumn ? comment[field] : nothing]);
  });
  test("sent without the fields that say nothing, and whole again where it is read", () => {
    const bare = { ...wholeComment({ text: "Why?" }), id: "x", usedCount: 3 };
    expect(leanComment(bare)).toEqual({ id: "x", usedCount: 3, text: "Why?" });
    for (const one of [bare, { ...comment, id: "y", usedCount: 0 }])
      expect(fullComment(leanComment(one))).toEqual(one);
  });
  test("with nothing said but its text everything is nothing", () => {
    const bare = wholeComment({ text: "Why?" });
    for (const [field, { nothing }] of COMMENT_TABLE)
      expect([field, bare[field]]).toEqual([field, field === "text" ? "Why?" : nothing]);
    expect(wholeComment(readBankText(bankToCsv([toEntry(bare)])).entries[0]!)).toEqual(bare);
  });
});
