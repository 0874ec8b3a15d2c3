import type { Findable } from "@/core/search/search";
import type { MastheadView } from "@/core/views/overviewViews";

type Page = [words: string, about: string, href: string];

const EVERYONE: Page[] = [["My account", "password, where I am signed in", "/account"]];
const PAGES: Record<MastheadView["kind"], Page[]> = {
  teacher: [
    ["Hand out work", "a new assignment", "/hand-out"],
    ["Today", "what came in, what waits", "/today"],
    ["Reading plan", "when to read what waits", "/today/plan"],
    ["To tick off", "what waits, piece by piece", "/today/list"],
    ["The Desk", "read what waits", "/desk?pile=waiting"],
    ["Hand back", "drafts go back", "/hand-back"],
    ["Ledger", "scores and grades", "/ledger"],
    ["Calendar", "weeks, lessons, due dates", "/calendar"],
    ["The term on one sheet", "calendar", "/calendar?view=term"],
    ["Sections", "classes and rosters", "/sections"],
    ["Questions", "what students asked", "/questions"],
    ["Letters", "to students and guardians", "/letters"],
    ["Shelf", "work used again", "/shelf"],
    ["Comment bank", "shelf", "/shelf/comments"],
    ["Rubrics", "shelf", "/shelf/rubrics"],
    ["Question sets", "shelf", "/shelf/questions"],
    ["Files", "shelf", "/shelf/files"],
    ["Check a receipt", "of a student's hand-in", "/receipts"],
    ["Due dates as a calendar", "iCalendar feed", "/feed"],
  ],
  student: [
    ["My work", "what is due, what came back", "/work"],
    ["Grades", "and what they are made of", "/grades"],
    ["Reminders", "when I am told what", "/reminders"],
    ["Letters", "from my teachers", "/letters"],
    ["Due dates as a calendar", "iCalendar feed", "/feed"],
  ],
  guardian: [
    ["Week sheet", "what is due and what came back", "/week"],
    ["Grades", "and what they are made of", "/grades"],
    ["Letters", "from teachers", "/letters"],
  ],
  office: [
    ["Office", "the school at a glance", "/office"],
    ["Roster", "bring people and sections in", "/office/roster"],
    ["School calendar", "terms and days without school", "/office/calendar"],
    ["People and passwords", "office", "/office/people"],
    ["Grade scales", "of the school", "/office/scales"],
    ["Limits", "sizes of files", "/office/limits"],
  ],
};

/** The screens and acts of this kind of person, to be found by their words. */
export const pagesFor = (kind: MastheadView["kind"]): Findable[] =>
  [...PAGES[kind], ...EVERYONE].map(([words, about, href]) => ({
    ...{ kind: "page", id: href, words, about, href },
  }));
