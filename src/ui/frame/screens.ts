import type { MastheadView } from "@/core/views/overviewViews";

/** The screens of each kind of person, as words, in the order of a day. */
export const SCREENS: Readonly<Record<MastheadView["kind"], { href: string; name: string }[]>> = {
  teacher: [
    { href: "/today", name: "Today" },
    { href: "/desk", name: "Desk" },
    { href: "/ledger", name: "Ledger" },
    { href: "/calendar", name: "Calendar" },
    { href: "/shelf", name: "Shelf" },
    { href: "/sections", name: "Sections" },
  ],
  student: [
    { href: "/work", name: "My work" },
    { href: "/grades", name: "Grades" },
    { href: "/reminders", name: "Reminders" },
    { href: "/letters", name: "Letters" },
  ],
  guardian: [
    { href: "/week", name: "Week sheet" },
    { href: "/grades", name: "Grades" },
    { href: "/letters", name: "Letters" },
  ],
  office: [{ href: "/office", name: "Office" }],
};
