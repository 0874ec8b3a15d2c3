import { boolean, object, string } from "yup";
import type { CameUp } from "../../sectionNotes/cameUp";
import type { SectionNotes } from "../../views/sectionNoteViews";
import { endpoint } from "../endpoint";
import { uuid } from "../fields";

const said = object({
  body: string().trim().max(4000, "A note has 4,000 characters at most.").defined(),
  clipId: uuid.nullable().defined(),
}).noUnknown();

/** Words to all the students of one hand-out, and what they answer to the class. */
export const sectionNoteRoutes = {
  sectionNotes: endpoint<SectionNotes>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/notes",
    for: "signed-in",
    summary: "What was said to all the students of a hand-out",
  }),
  cameUp: endpoint<CameUp[]>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/came-up",
    for: "signed-in",
    summary: "Comments that came up on many pieces of a hand-out, to be said to all at once",
  }),
  sayToClass: endpoint<SectionNotes>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/notes",
    for: "signed-in",
    summary: "Say something to all the students of a hand-out",
    body: said,
    once: true,
  }),
  answerToClass: endpoint<SectionNotes>()({
    method: "POST",
    path: "/api/section-notes/{sectionNoteId}/answers",
    for: "signed-in",
    summary: "Answer a section note, to the whole class",
    body: said,
    once: true,
  }),
  showAnswer: endpoint<SectionNotes>()({
    method: "PUT",
    path: "/api/section-notes/{sectionNoteId}",
    for: "signed-in",
    summary: "Let the class see an answer that waits, or hide it again",
    body: object({ shown: boolean().required() }).noUnknown(),
  }),
  reportAnswer: endpoint<SectionNotes>()({
    method: "POST",
    path: "/api/section-notes/{sectionNoteId}",
    for: "signed-in",
    summary: "Report what another answered to the class to the teachers",
    body: object({ why: string().trim().max(500).defined() }).noUnknown(),
  }),
  takeAwaySaid: endpoint<SectionNotes>()({
    method: "DELETE",
    path: "/api/section-notes/{sectionNoteId}",
    for: "signed-in",
    summary: "Take away what was said to the class",
  }),
} as const;
