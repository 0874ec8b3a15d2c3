/** The week sheet of guardians. */
export const week = {
  title: "Week sheet",
  range: "{from} to {to}",
  weeks: "Weeks",
  before: "← The week before",
  after: "The week after →",
  thisWeek: "This week",
  letters: "{count, plural, one {# letter} other {# letters}} to read",
  nothingNow: "Nothing is due, missing or just handed back",
  nothingThen: "Nothing was due in this week",
  work: "work",
  due: "due",
  where: "where it is",
  whereNow: "where it is now",
  score: "score",
  cameBack: "came back {when}",
  fromTeachers: "from the teachers",
  letterFrom: "{name}, {when}",
  mail: "A mail to {address} on Friday afternoons, with how much there is and the way here",
  language: "Language",
  print: "Print",
};
export type WeekWords = typeof week;
