import { expect, test } from "@jest/globals";
import { renderToStaticMarkup } from "react-dom/server";
import { sayIn } from "@/core/language/say";
import type { WeekChild } from "@/core/views/overviewViews";
import { WeekSheet } from "./WeekSheet";

const moon = { state: "handed_in", round: 1, late: false, missing: false, excused: false } as const;
const CHILD: WeekChild = {
  id: "1",
  name: "0001",
  lines: [
    {
      title: "0002",
      section: "0003",
      due: "0004",
      state: "0005",
      moon,
      score: "0006",
      back: "0007",
    },
  ],
  letters: [{ id: "2", from: "0008", subject: "0009", body: "0010", when: "0011", unread: true }],
};

test.each([true, false])("every word of the sheet is a message (this week: %s)", (present) => {
  for (const child of [CHILD, { ...CHILD, lines: [], letters: [] }]) {
    const html = renderToStaticMarkup(
      <WeekSheet child={child} present={present} say={sayIn("week", "pseudo")} />,
    );
    const words = html.replace(/<[^>]*>/g, " ").replace(/⟦[^⟧]*⟧/g, " ");
    expect(words.match(/\p{L}+/gu) ?? []).toEqual([]);
  }
});
