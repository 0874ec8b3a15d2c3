/** The mail that says that a week sheet is there. */
export const weekMail = {
  subject: "The week sheet",
  hello: "Hello {name},",
  toDo: "{count, plural, one {# piece of work is to be done} other {# pieces of work are to be done}}",
  missing: "{count, plural, one {# is missing} other {# are missing}}",
  back: "{count, plural, one {# came back this week} other {# came back this week}}",
  sheet: "The sheet: {where}",
  here: "You find it in Almanac, on your first page.",
  off: "You can switch this mail off there.",
};
export type WeekMailWords = typeof weekMail;
