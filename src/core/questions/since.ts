import type { AnswerLine, AnswerSheet } from "../views/workViews";

/** A question as it was answered in one hand-in and in a later one. */
export type AnswerSince = {
  now: AnswerLine;
  before: AnswerLine | null;
  /** What became of it. */
  became: "same" | "changed" | "new" | "taken out";
};

export type SheetSince = { partId: string; name: string; lines: AnswerSince[] };

const given = (line: AnswerLine | null | undefined): string =>
  line && line.state !== "nothing given" ? JSON.stringify(line.rows.map((row) => row.given)) : "";

function became(before: string, now: string): AnswerSince["became"] {
  if (before === now) return "same";
  if (before === "") return "new";
  return now === "" ? "taken out" : "changed";
}

/** The answers of two hand-ins, question by question, in the order of the later one. */
export function answersSince(
  before: readonly AnswerSheet[],
  now: readonly AnswerSheet[],
): SheetSince[] {
  return now.map((sheet) => {
    const old = before.find((b) => b.partId === sheet.partId && b.name === sheet.name);
    return {
      partId: sheet.partId,
      name: sheet.name,
      lines: sheet.lines.map((line) => {
        const earlier = old?.lines.find((l) => l.questionId === line.questionId) ?? null;
        return { now: line, before: earlier, became: became(given(earlier), given(line)) };
      }),
    };
  });
}
