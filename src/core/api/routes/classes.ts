import { array, boolean, number, object, string } from "yup";
import { CATEGORY_SHOWS } from "../../ledger/shows";
import { EXTRA_UNITS } from "../../handouts/extraTime";
import { MOST_SCALES, MOST_STEPS, type GradeRules, type GradeScale } from "../../grades/rules";
import { CLASS_ANSWERS, type ClassAnswers } from "../../sectionNotes/sectionNote";
import type { RosterRunView } from "../../views/handOutViews";
import { endpoint } from "../endpoint";
import { clock, day, named, uuid, weekday } from "../fields";
import { latePolicy } from "../planBody";

const group = object({
  name: named("the group", 60),
  extra: object({
    amount: number()
      .integer()
      .min(1, "Extra time is 1 or more.")
      .max(400, "Extra time is 400 at most.")
      .required(),
    unit: string().oneOf(EXTRA_UNITS).required(),
  })
    .noUnknown()
    .nullable()
    .defined(),
  students: array().of(uuid.required()).required().max(500),
}).noUnknown();

const spoken = number()
  .integer("This is a whole number of seconds.")
  .min(10, "At least 10 seconds.")
  .max(300, "300 seconds at most.")
  .required();

const PLACES = [0, 1, 2] as const;
const ROUNDINGS = ["half up", "half even"] as const;
const steps = array()
  .of(object({ from: string().max(8).defined(), name: string().max(20).defined() }).noUnknown())
  .max(MOST_STEPS, `A scale has ${MOST_STEPS} steps at most.`)
  .required();

/** How a section is set up by its owner. */
export const classRoutes = {
  makeSection: endpoint<{ sectionId: string }>()({
    method: "POST",
    path: "/api/sections",
    for: "signed-in",
    summary: "Make a section of one's own, or as the office for a teacher",
    once: true,
    body: object({
      course: named("the course"),
      name: named("the section", 60),
      termId: uuid.required("Choose the term."),
      ownerId: uuid.nullable(),
    }).noUnknown(),
  }),
  setMeetings: endpoint<{ meetings: number }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/meetings",
    for: "signed-in",
    summary: "When a section meets in the week",
    body: object({
      meetings: array()
        .of(
          object({
            weekday: weekday.required(),
            starts: clock.required("Say when it starts."),
            ends: clock.required("Say when it ends."),
          }).noUnknown(),
        )
        .required()
        .max(30),
    }).noUnknown(),
  }),
  setCounting: endpoint<{ categories: number }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/counting",
    for: "signed-in",
    summary: "The section's late policy and its categories",
    body: object({
      late: latePolicy,
      categories: array()
        .of(
          object({
            id: uuid.nullable().defined(),
            name: named("the category", 60),
            weight: string()
              .matches(/\S/, "Write something here.")
              .required("Give it a weight.")
              .max(12),
            drop: number().integer().min(0).max(20).required(),
            shows: string().oneOf(CATEGORY_SHOWS).required(),
          }).noUnknown(),
        )
        .required()
        .max(20),
    }).noUnknown(),
  }),
  setGradeRules: endpoint<{ rules: GradeRules }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/grade-rules",
    for: "signed-in",
    summary: "How the section's grade comes about",
    body: object({
      way: string().oneOf(["weights", "points"]).required(),
      missing: string().oneOf(["zero", "left out"]).required(),
      emptyWeights: string().oneOf(["spread", "kept"]).required(),
      decimals: number().oneOf(PLACES).required(),
      round: string().oneOf(ROUNDINGS).required(),
      scale: steps,
      shown: boolean().required(),
    }).noUnknown(),
  }),
  setGradeScales: endpoint<{ scales: GradeScale[] }>()({
    method: "PUT",
    path: "/api/school/grade-scales",
    for: "signed-in",
    summary: "Set the scales of the school, which sections take as their own",
    body: object({
      scales: array()
        .of(
          object({
            name: string().max(40).defined(),
            decimals: number().oneOf(PLACES).required(),
            round: string().oneOf(ROUNDINGS).required(),
            scale: steps,
          }).noUnknown(),
        )
        .max(MOST_SCALES, `A school has ${MOST_SCALES} scales at most.`)
        .required(),
    }).noUnknown(),
  }),
  setVoice: endpoint<{ voiceSeconds: number; replySeconds: number; classAnswers: ClassAnswers }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/voice",
    for: "signed-in",
    summary:
      "How long a voice note and a student's reply may be, and whether students answer to the class",
    body: object({
      voiceSeconds: spoken,
      replySeconds: spoken,
      classAnswers: string().oneOf(CLASS_ANSWERS).required(),
    }).noUnknown(),
  }),
  setCoTeacher: endpoint<{ mayHandBack: boolean }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/teachers/{personId}",
    for: "signed-in",
    summary: "Name a co-teacher, and say whether they may hand back",
    body: object({ mayHandBack: boolean().required() }).noUnknown(),
  }),
  removeCoTeacher: endpoint<{ removed: true }>()({
    method: "DELETE",
    path: "/api/sections/{sectionId}/teachers/{personId}",
    for: "signed-in",
    summary: "Take a co-teacher off a section",
  }),
  setMember: endpoint<{ joinedOn: string; leftOn: string | null }>()({
    method: "PUT",
    path: "/api/sections/{sectionId}/students/{studentId}",
    for: "signed-in",
    summary: "Put a student into a section, or say when they leave it",
    body: object({
      joinedOn: day.nullable().defined(),
      leftOn: day.nullable().defined(),
      readAloud: boolean().optional(),
    }).noUnknown(),
  }),
  makeGroup: endpoint<{ groupId: string; revision: number }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/groups",
    for: "signed-in",
    summary: "Make a group of students",
    body: group,
    once: true,
  }),
  changeGroup: endpoint<{ revision: number }>()({
    method: "PUT",
    path: "/api/groups/{groupId}",
    for: "signed-in",
    summary: "Change a group",
    body: group,
    ifMatch: true,
  }),
  deleteGroup: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/groups/{groupId}",
    for: "signed-in",
    summary: "Delete a group",
  }),
  findPeople: endpoint<{ id: string; name: string; detail: string }[]>()({
    method: "GET",
    path: "/api/people",
    for: "signed-in",
    summary: "People of the school by a part of their name",
    query: {
      text: "A part of the name or address, two letters at least",
      kind: "student (if left out) or teacher",
    },
  }),
  checkSectionRoster: endpoint<RosterRunView>()({
    method: "POST",
    path: "/api/sections/{sectionId}/roster",
    for: "signed-in",
    summary: "See what a table of students would change in a section",
    bytes: 2_000_000,
    query: { complete: "1: who is not in the table leaves the section" },
  }),
} as const;
