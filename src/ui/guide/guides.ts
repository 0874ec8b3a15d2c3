import type { MastheadView } from "@/core/views/overviewViews";

/** What a screen is for, said once: behind `?` on the screen itself, and to a teacher who is there for the first time. */
export type Guide = {
  what: string;
  /** What one does first here. */ first: string;
  keys?: readonly (readonly [key: string, words: string])[];
};
type Kind = MastheadView["kind"];
type Guides = Readonly<Record<string, Guide>>;

const ACCOUNT: Guides = {
  "/account": {
    what: "Your password, where you are signed in, and what single letters do as keys.",
    first: "Look through where you are signed in, and end what you do not know.",
  },
  "/post-room": {
    what: "The messages of this school that would go out as mail, as they were written.",
    first: "Open one to read it as it goes out.",
  },
};
const FEED: Guides = {
  "/feed": {
    what: "An address that shows your due dates in a calendar of your own.",
    first:
      "Make the address, and give it to your calendar program. Whoever has it can read the dates.",
  },
};

const TEACHER: Guides = {
  "/today": {
    what: "What waits for you now: what came in, the most pressing first, and what the day brings.",
    first:
      "Press a count to read those pieces at the Desk; a date on the ribbon opens its hand-out.",
  },
  "/today/plan": {
    what: "When to read what waits, so that it is back when it was promised.",
    first:
      "Say at which times of the week you read; what cannot be back when it was promised is told.",
  },
  "/today/list": {
    what: "Everything that waits, piece by piece, to be ticked off.",
    first: "Press a piece to read it at the Desk; it leaves the list when it goes back.",
  },
  "/hand-out": {
    what: "One page to give work out: the work, who gets it and when, and how it counts.",
    first:
      "Give it a title and a due date. All else has a usual value, and the picture at the side shows what students see.",
  },
  "/hand-outs/[id]": {
    what: "One hand-out, a line for each student: how far each piece is, when it came in, what came of it.",
    first:
      "Press a name to read that piece. Choose several lines to extend, remind, excuse or hand back together.",
  },
  "/hand-outs/[id]/change": {
    what: "Everything about a hand-out that can still be changed.",
    first:
      "Change it and keep it: what happened before stays as it was, and students are told what is new.",
  },
  "/hand-back": {
    what: "Drafts that go back together, now or at a time you say.",
    first: "Look through what each student gets; what is held back stays a draft.",
  },
  "/desk/criterion": {
    what: "One criterion of the rubric through all pieces of a hand-out.",
    first: "Choose a level for each; it is on the Desk at once.",
    keys: [
      ["1 to 9", "the level"],
      ["n, p", "next and last piece"],
    ],
  },
  "/desk/answers": {
    what: "The answers to one question, alike ones together.",
    first: "Judge a group, and all in it are judged; take out what does not belong.",
  },
  "/ledger": {
    what: "The sections whose scores and grades you keep.",
    first: "Choose a section.",
  },
  "/ledger/[id]": {
    what: "Every score of a section: a row for each student, a column for each hand-out, and the grade they come to.",
    first:
      "Type into a cell, as 8, 8/10, 85% or ex for excused. A grade says what it is made of when it is pressed.",
    keys: [
      ["arrows", "to the next cell"],
      ["F2", "change what is in it"],
      ["Shift+F2", "a note on it"],
      ["Ctrl+Z", "take back"],
    ],
  },
  "/ledger/[id]/grades/[id]": {
    what: "How one student’s grade comes about, step by step.",
    first: "Follow it from the scores at the top to the grade at the end.",
  },
  "/calendar": {
    what: "The term: lessons, what is due, and days without school.",
    first: "Press a day to hand out work for it, or drag what is due to another day.",
  },
  "/shelf": {
    what: "Work you use again: templates, and what you handed out before.",
    first: "Press one to hand it out anew, with dates of this term.",
  },
  "/shelf/comments": {
    what: "Your comment bank: what you say often, with a shorthand, for notes and messages.",
    first: "Write one, or bring your list in. In any field ; and its shorthand put it in.",
  },
  "/shelf/rubrics": {
    what: "How work is judged: criteria with their levels and points.",
    first: "Make one with a few criteria; a hand-out takes a copy of it as it is then.",
  },
  "/shelf/questions": {
    what: "Sets of questions with their key, answered here by students.",
    first: "Write a set, or bring one in as QTI; then ask for it in a hand-out.",
  },
  "/shelf/files": {
    what: "The files you gave out, and with how many assignments.",
    first: "Press a name to fetch one; new ones come here from the page Hand out.",
  },
  "/sections": {
    what: "Your classes.",
    first: "Begin a section, and paste the names of its students.",
  },
  "/sections/[id]": {
    what: "One class: who is in it, their guardians, and who teaches it with you.",
    first: "Add students one by one or from a list; print their first passwords.",
  },
  "/sections/[id]/set-up": {
    what: "What holds for a whole class: its categories and weights, late work, the days it meets.",
    first: "Set the days it meets: due dates then fall on lessons.",
  },
  "/students/[id]": {
    what: "One student across all you teach them: what came in, what came back, what was said.",
    first: "Press a piece to read it. For a meeting the sheet prints without your private notes.",
  },
  "/questions": {
    what: "What students ask about their work.",
    first: "Answer here: the student reads it beside the piece.",
  },
  "/letters": {
    what: "Letters to students and guardians, with what stands behind each name put in.",
    first: "Choose whom it is for, and look at one as it will be read before it goes.",
  },
  "/receipts": {
    what: "Whether a receipt that a student shows is one of this school.",
    first: "Type or paste what stands on it.",
  },
  "/displays/[id]": {
    what: "Pieces of a hand-out that classmates may read for a time, and what they say of them.",
    first:
      "Read what was said: nothing is shown to its writer before you let it through, where you asked for that.",
  },
  "/looks/[id]": {
    what: "Unfinished work that a student asked to be looked at.",
    first: "Select words to say something of them; the student goes on writing meanwhile.",
  },
  "/kit": {
    what: "The parts that all screens are made of.",
    first: "Look at them by day and by night.",
  },
  ...FEED,
  ...ACCOUNT,
};

const STUDENT: Guides = {
  "/work": {
    what: "What is due, in its order, and what came back.",
    first: "Press a piece to begin it, or to go on with it.",
  },
  "/work/[id]": {
    what: "One piece of work: what is asked, where you do it, and what came back.",
    first: "What you write is kept by itself, also without a connection. Hand in when it is ready.",
  },
  "/grades": {
    what: "Your grades, and what they are made of.",
    first: "Press a grade to follow how it came about.",
  },
  "/reminders": {
    what: "When you are told of what.",
    first: "Say how long before work is due you want to hear of it.",
  },
  "/letters": { what: "Letters from your teachers.", first: "Press one to read it." },
  "/displays/[id]": {
    what: "Work of your class that you may read for a time.",
    first: "Read a piece, and say something of its words if you are asked to.",
  },
  "/looks/[id]": {
    what: "Unfinished work that someone asked you to look at.",
    first: "Select words to say something of them.",
  },
  ...FEED,
  ...ACCOUNT,
};

const GUARDIAN: Guides = {
  "/week": {
    what: "The week of your child: what is due, and what came back.",
    first: "Press a line for more of it. It can be printed on one sheet.",
  },
  "/grades": { what: "Grades, and what they are made of.", first: "Press a grade to follow it." },
  "/letters": { what: "Letters from teachers.", first: "Press one to read it." },
  ...ACCOUNT,
};

const OFFICE: Guides = {
  "/office": {
    what: "The school at a glance: its people, its sections, and what happened last.",
    first: "Bring the roster in, then the calendar of the year.",
  },
  "/office/roster": {
    what: "People and sections from your school records (OneRoster or a table).",
    first: "Choose the file: what would change is shown before anything is.",
  },
  "/office/calendar": {
    what: "Terms, and days without school.",
    first: "Enter the terms of this year: weeks are counted from them.",
  },
  "/office/people": {
    what: "Everyone of the school, and their passwords.",
    first: "Find someone by name to give a new first password.",
  },
  "/office/scales": {
    what: "The scales in which the school says its grades.",
    first: "Make one, and sections can choose it.",
  },
  "/office/limits": {
    what: "How large files and recordings may be.",
    first: "Raise a limit only as far as your disk goes.",
  },
  "/sections/[id]": {
    what: "One class: who is in it, and who teaches it.",
    first: "Say who teaches it, or add a student.",
  },
  ...ACCOUNT,
};

const GUIDES: Readonly<Record<Kind, Guides>> = {
  // A teacher whose own school it is has the office's pages too.
  teacher: { ...OFFICE, ...TEACHER },
  student: STUDENT,
  guardian: GUARDIAN,
  office: OFFICE,
};

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/** The screen of an address, whatever it is about. @example screenOf("/work/0190…") // "/work/[id]" */
export const screenOf = (pathname: string): string =>
  pathname
    .split("/")
    .map((part) => (UUID.test(part) ? "[id]" : part))
    .join("/");

/** What there is to say of a screen to this kind of person; undefined: it has a help of its own, or is not theirs. */
export const guideOf = (kind: Kind, pathname: string): Guide | undefined =>
  GUIDES[kind][screenOf(pathname)];
