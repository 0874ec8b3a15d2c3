/**
 * Who may do what, to whose: one table, asked by every use-case and every page.
 *
 * A *standing* is what a signed-in person is to the thing asked for. The server finds it from the
 * roster (see server/access); this table alone says what follows from it. A person has one standing
 * on a thing, and `none` means that to them the thing does not exist.
 */
export const STANDINGS = [
  "student", // the piece is theirs, or they are on the roster of the section
  "taken off", // the piece was theirs: what they did stays theirs to read and fetch
  "reader", // a classmate to whom the work is shown just now: they were asked for a look, or a display is open
  "classmate", // on the roster of the section, but the piece is another's
  "guardian", // of the student whose piece it is
  "owner", // owner of the section, or of the comment
  "trusted co-teacher", // co-teacher whom the owner lets hand back
  "co-teacher",
  "office",
  "none",
] as const;
export type Standing = (typeof STANDINGS)[number];

const TEACHERS = ["owner", "trusted co-teacher", "co-teacher"] as const;
const MAY_HAND_BACK = ["owner", "trusted co-teacher"] as const;

/** Every act there is, and the standings that allow it. What is not listed is not allowed. */
const TABLE = {
  // the section and what is handed out to it
  "section.see": [...TEACHERS, "office"],
  "section.handOut": MAY_HAND_BACK,
  "section.setUp": ["owner"],
  "section.passwords": [...MAY_HAND_BACK, "office"],
  "handOut.see": TEACHERS,
  "ledger.see": TEACHERS,
  // the student's own piece
  "piece.see": ["student", "taken off"],
  "piece.write": ["student"],
  "piece.handIn": ["student"],
  "piece.answer": ["student"],
  // the same piece on the teachers' side
  "piece.except": MAY_HAND_BACK,
  "feedback.see": TEACHERS,
  "feedback.draft": TEACHERS,
  "feedback.handBack": MAY_HAND_BACK,
  "thread.write": ["student", ...TEACHERS],
  "thread.close": TEACHERS,
  // letters to students of a section, or to their guardians
  "letter.write": TEACHERS,
  // what is said to all the students of a hand-out
  "class.see": ["student", ...TEACHERS],
  "class.answer": ["student", ...TEACHERS],
  "class.say": TEACHERS,
  "class.moderate": TEACHERS,
  // work that is shown to others for a time
  "look.ask": ["student"],
  "shown.see": ["student", "reader", ...TEACHERS],
  "shown.say": ["reader", ...TEACHERS],
  "shown.moderate": TEACHERS,
  // a child's week, as dates and states only
  "week.see": ["guardian"],
  // a teacher's own comments
  "comment.use": ["owner"],
  // the school
  "school.see": ["office"],
} as const satisfies Record<string, readonly Standing[]>;

export type Act = keyof typeof TABLE;
export const ACTS = Object.keys(TABLE) as Act[];

/** @example may("co-teacher", "feedback.handBack") // false */
export function may(standing: Standing, act: Act): boolean {
  return (TABLE[act] as readonly Standing[]).includes(standing);
}

/** Whether the standing is a teacher's of the section. */
export const isTeacher = (standing: Standing): boolean =>
  (TEACHERS as readonly Standing[]).includes(standing);

export type PersonKind = "teacher" | "student" | "guardian" | "office";

/** Where everybody sees to their password and where they are signed in. */
export const OWN_PAGE = "/account";

/** Which of the main pages a person starts on; each kind has its own and sees no other's. */
export const FIRST_PAGE: Record<PersonKind, string> = {
  teacher: "/today",
  student: "/work",
  guardian: "/week",
  office: "/office",
};
