import { array, boolean, mixed, number, object, string } from "yup";
import { DISPLAY_SHOWS, LOOK_READERS } from "../../looks/shown";
import type { DisplayView, PieceLooks, ShownOfSheet, ShownView } from "../../views/lookViews";
import { endpoint } from "../endpoint";
import { uuid, wall } from "../fields";
import { MOST_AT_ONCE } from "./handingBack";
import { work } from "./students";

/** What someone says of work that is shown to them; on its words, a place, or the whole. */
const saidOfShown = object({
  id: uuid.required(),
  kind: string()
    .oneOf(["note", "insert", "delete", "replace"] as const)
    .required(),
  start: number().integer().min(0).max(10_000_000).required(),
  end: number().integer().min(0).max(10_000_000).required(),
  body: string().trim().max(4000, "A note has 4,000 characters at most.").defined(),
  replacement: string().max(2000, "The new words have 2,000 characters at most.").defined(),
  place: mixed<object>().nullable().defined(),
  clipId: uuid.nullable().defined(),
}).noUnknown();

/** Work shown to others for a time: displays of what is handed in, and looks before it is. */
export const lookRoutes = {
  display: endpoint<DisplayView>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/display",
    for: "signed-in",
    summary: "The display of a hand-out: whose work is shown",
  }),
  openDisplay: endpoint<DisplayView>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/display",
    for: "signed-in",
    summary: "Let classmates see each other's handed-in work until a time, or change how",
    body: object({
      shows: string()
        .oneOf([...DISPLAY_SHOWS])
        .required(),
      pieceIds: array().of(uuid.required()).required().max(MOST_AT_ONCE),
      named: boolean().required(),
      readFirst: boolean().required(),
      onlyHandedIn: boolean().required(),
      closes: wall.required("Say when it closes."),
    }).noUnknown(),
  }),
  displayedPiece: endpoint<ShownView>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/display",
    for: "signed-in",
    summary: "A piece on display, with what was said of it",
  }),
  sayOnDisplay: endpoint<ShownView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/display",
    for: "signed-in",
    summary: "Say something of a piece on display",
    body: saidOfShown,
  }),
  shownOfSheet: endpoint<ShownOfSheet>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/looks",
    for: "signed-in",
    summary: "The display and the looks of a hand-out, and what waits for a teacher in them",
  }),
  setLookRule: endpoint<ShownOfSheet>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/looks",
    for: "signed-in",
    summary: "Let students ask each other for a look until a time, or change how",
    body: object({
      readers: string()
        .oneOf([...LOOK_READERS])
        .required(),
      named: boolean().required(),
      readFirst: boolean().required(),
      ends: wall.required("Say when it ends."),
    }).noUnknown(),
  }),
  askForLook: endpoint<{ looks: PieceLooks; number: number; revision: number; when: string }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/looks",
    for: "signed-in",
    summary: "Ask the teacher or a classmate for a look at the work so far",
    ifMatch: true,
    once: true,
    body: object({
      ...work,
      of: string()
        .oneOf(["teacher", "classmate"] as const)
        .required(),
      readerId: uuid.nullable().defined(),
      question: string()
        .trim()
        .required("Write what you would like to know.")
        .max(2000, "A question has 2,000 characters at most."),
      start: number().integer().min(0).nullable().defined(),
      end: number().integer().min(0).nullable().defined(),
    }).noUnknown(),
  }),
  look: endpoint<ShownView>()({
    method: "GET",
    path: "/api/looks/{lookId}",
    for: "signed-in",
    summary: "A look: the work so far, the question, and what was said",
  }),
  sayInLook: endpoint<ShownView>()({
    method: "POST",
    path: "/api/looks/{lookId}",
    for: "signed-in",
    summary: "Say something in a look, or offer an edit",
    body: saidOfShown,
  }),
  endLook: endpoint<{ ended: true }>()({
    method: "PUT",
    path: "/api/looks/{lookId}",
    for: "signed-in",
    summary: "Say that one is through with a look, or end it",
    body: object({
      as: string()
        .oneOf(["read", "ended"] as const)
        .required(),
    }).noUnknown(),
  }),
  showShownMark: endpoint<{ shown: boolean }>()({
    method: "PUT",
    path: "/api/look-marks/{lookMarkId}",
    for: "signed-in",
    summary: "Let others see what a student said in a look or a display, or hide it again",
    body: object({ shown: boolean().required() }).noUnknown(),
  }),
  reportShownMark: endpoint<{ reported: true }>()({
    method: "POST",
    path: "/api/look-marks/{lookMarkId}",
    for: "signed-in",
    summary: "Report what another said to the teachers",
    body: object({ why: string().trim().max(500).defined() }).noUnknown(),
  }),
  takeAwayShownMark: endpoint<{ taken: true }>()({
    method: "DELETE",
    path: "/api/look-marks/{lookMarkId}",
    for: "signed-in",
    summary: "Take away what was said in a look or a display",
  }),
  endLookRule: endpoint<ShownOfSheet>()({
    method: "DELETE",
    path: "/api/hand-outs/{handOutId}/looks",
    for: "signed-in",
    summary: "End the looks of classmates now",
  }),
  closeDisplay: endpoint<DisplayView>()({
    method: "DELETE",
    path: "/api/hand-outs/{handOutId}/display",
    for: "signed-in",
    summary: "Close a display now",
  }),
} as const;
