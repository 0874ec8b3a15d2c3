/**
 * When students see the scores of a column for work off the screen: once a teacher hands them back (`by hand`), some minutes
 * after they were typed (`typed`), from a date on (`date`), or `never`. Other work goes back with its feedback, by hand.
 */
export const SHOWS = ["by hand", "typed", "date", "never"] as const;
export type Shows = (typeof SHOWS)[number];

/** What a category can say for the columns that are made in it; a date is a column's own. */
export const CATEGORY_SHOWS = ["by hand", "typed", "never"] as const;
export type CategoryShows = (typeof CATEGORY_SHOWS)[number];

/** So long a typed score stands unchanged before it goes by itself: time enough to see a slip. */
export const TYPED_MINUTES = 10;

export const SHOWS_WORDS: Readonly<Record<Shows, string>> = {
  "by hand": "when I hand them back",
  typed: `${TYPED_MINUTES} minutes after they were typed`,
  date: "from a date on",
  never: "never: for teachers only",
};

/** As it is said at the column. @example sayShows({ when: "date", from: "Fri 4 Dec" }) // "Students see it from Fri 4 Dec on" */
export function sayShows({ when, from }: { when: Shows; from: string | null }): string {
  if (when === "date") return `Students see it from ${from} on`;
  if (when === "typed") return `Students see it ${SHOWS_WORDS.typed}`;
  return when === "never" ? "Students never see it" : "Students see it when it is handed back";
}

/** Why nothing of such a column goes back. */
export const NEVER_SHOWN =
  "Scores of this column are for teachers only, as the Ledger says. Change that there first.";
