import { array, boolean, number, object, string } from "yup";
import type { ClosureImport, FeedView, RosterRunView } from "../../views/handOutViews";
import type { FoundView } from "../../views/overviewViews";
import { endpoint } from "../endpoint";
import { clock, days, weekday } from "../fields";

/** The school: its roster and its calendar, which the office keeps, and everyone's private feed of due dates. */
export const schoolRoutes = {
  setSchoolDays: endpoint<{ saved: true }>()({
    method: "PUT",
    path: "/api/school/days",
    for: "signed-in",
    summary: "On which weekdays the school meets, and when its day ends",
    body: object({
      meetsOn: array().of(weekday.required()).required().max(7),
      dayEnds: clock.required("Say when the school day ends."),
    }).noUnknown(),
  }),
  addTerm: endpoint<{ id: string }>()({
    method: "POST",
    path: "/api/terms",
    for: "signed-in",
    summary: "Add a term",
    body: days,
    once: true,
  }),
  changeTerm: endpoint<{ id: string }>()({
    method: "PUT",
    path: "/api/terms/{termId}",
    for: "signed-in",
    summary: "Change a term",
    body: days,
  }),
  deleteTerm: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/terms/{termId}",
    for: "signed-in",
    summary: "Delete a term without courses",
  }),
  addClosure: endpoint<{ id: string }>()({
    method: "POST",
    path: "/api/closures",
    for: "signed-in",
    summary: "Add a holiday or closure",
    body: days,
    once: true,
  }),
  changeClosure: endpoint<{ id: string }>()({
    method: "PUT",
    path: "/api/closures/{closureId}",
    for: "signed-in",
    summary: "Change a holiday or closure",
    body: days,
  }),
  deleteClosure: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/closures/{closureId}",
    for: "signed-in",
    summary: "Delete a holiday or closure",
  }),
  importClosures: endpoint<ClosureImport>()({
    method: "POST",
    path: "/api/closures/import",
    for: "signed-in",
    summary: "See what an iCalendar file holds, or take over the entries chosen",
    body: object({
      source: string().matches(/\S/, "Write something here.").required().max(120),
      text: string()
        .required("The file is empty.")
        .max(5_000_000, "The calendar is too large: 5 million characters are the most."),
      chosen: array().of(string().required().max(300)).nullable().defined().max(3000),
      zones: array()
        .of(
          object({
            name: string().required().max(200),
            zone: string().required().max(100),
          }).noUnknown(),
        )
        .max(50),
    }).noUnknown(),
  }),

  checkRoster: endpoint<RosterRunView>()({
    method: "POST",
    path: "/api/roster-runs",
    for: "signed-in",
    summary: "See what a roster would change: a OneRoster 1.2 CSV package, or a table",
    bytes: 30_000_000,
    query: {
      complete: "1: in a plain table, who does not stand in it leaves its sections",
      from: "records: ask the school records system instead of sending a file",
    },
  }),
  rosterRun: endpoint<RosterRunView>()({
    method: "GET",
    path: "/api/roster-runs/{runId}",
    for: "signed-in",
    summary: "A roster that was sent, and how far applying it is",
  }),
  applyRoster: endpoint<RosterRunView>()({
    method: "POST",
    path: "/api/roster-runs/{runId}/apply",
    for: "signed-in",
    summary: "Apply a roster that was looked at: all of it, or nothing",
  }),
  exportRoster: endpoint<never>()({
    method: "GET",
    path: "/api/roster",
    for: "signed-in",
    summary: "The school as a OneRoster 1.2 CSV package",
    gives: "application/zip",
  }),
  readingPlan: endpoint<object>()({
    method: "GET",
    path: "/api/reading-plan",
    for: "signed-in",
    summary: "My reading plan as a calendar (RFC 5545)",
    gives: "text/calendar",
  }),
  setReadingTimes: endpoint<{ saved: true }>()({
    method: "PUT",
    path: "/api/reading-times",
    for: "signed-in",
    summary: "When I mean to read in a week; none: between my lessons",
    body: object({
      times: array()
        .of(
          object({
            weekday: weekday.required(),
            starts: clock.required("Say when it begins."),
            ends: clock.required("Say when it ends."),
          }).noUnknown(),
        )
        .required()
        .max(30, "Thirty times a week at most."),
    }).noUnknown(),
  }),
  live: endpoint<object>()({
    method: "GET",
    path: "/api/live",
    for: "signed-in",
    summary: "Something moved in my sections, as it moves (server-sent events)",
    query: { seconds: "after so long it ends; 600 at most" },
    gives: "text/event-stream",
  }),
  find: endpoint<FoundView[]>()({
    method: "GET",
    path: "/api/find",
    for: "signed-in",
    summary:
      "Students, hand-outs, pieces, comments and people by a few letters, of what one may see",
    query: { text: "what was typed; slips are forgiven" },
  }),
  officePeople: endpoint<
    { id: string; name: string; kind: string; signsInAs: string; hasPassword: boolean }[]
  >()({
    method: "GET",
    path: "/api/office/people",
    for: "signed-in",
    summary: "People of the school, for the office",
    query: { text: "A part of the name or address" },
  }),
  addPerson: endpoint<{ id: string; name: string }>()({
    method: "POST",
    path: "/api/office/people",
    for: "signed-in",
    summary: "Add a person to the school by hand",
    once: true,
    body: object({
      name: string().trim().matches(/\S/, "Write the name.").required("Write the name.").max(120),
      email: string().trim().required("Write the e-mail address.").max(254),
      kind: string()
        .oneOf(["teacher", "student", "office"] as const)
        .required(),
    }).noUnknown(),
  }),
  givePassword: endpoint<{ password: string; name: string; signsInAs: string }>()({
    method: "POST",
    path: "/api/people/{personId}/password",
    for: "signed-in",
    summary: "Give a person a new password, shown once",
  }),

  setFeed: endpoint<FeedView>()({
    method: "PUT",
    path: "/api/feed",
    for: "signed-in",
    summary: "One's own calendar of due dates: make it, set its alarm, change its address",
    body: object({
      alarmMinutes: number()
        .integer()
        .min(0)
        .max(20_160, "Two weeks before is the earliest.")
        .nullable()
        .defined(),
      newAddress: boolean().required(),
    }).noUnknown(),
  }),
  deleteFeed: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/feed",
    for: "signed-in",
    summary: "Give the calendar up: its address leads nowhere from then on",
  }),
  feed: endpoint<never>()({
    method: "GET",
    path: "/api/feeds/{secret}",
    for: "anyone",
    summary: "A calendar of due dates, for whoever knows its secret address",
    gives: "text/calendar",
  }),
} as const;
