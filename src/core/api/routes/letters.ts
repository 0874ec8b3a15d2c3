import { LANGUAGE_IDS, type Language } from "../../language/languages";
import { array, boolean, object, string } from "yup";
import { LETTER_TO } from "../../letters/letter";
import type { QuietHours } from "../../time/quiet";
import type { LettersView, OpenQuestion } from "../../views/letterViews";
import type { SectionOverTime } from "../../views/studentViews";
import type { ClipView } from "../../views/voiceViews";
import { endpoint } from "../endpoint";
import { clock, uuid } from "../fields";
import { MOST_AT_ONCE } from "./handingBack";

const LONGEST = 8000;

/** Letters to students and guardians, the questions that wait, and when nothing is sent. */
export const letterRoutes = {
  letters: endpoint<LettersView>()({
    method: "GET",
    path: "/api/letters",
    for: "signed-in",
    summary: "The letters one got, and those sent in the sections one teaches, with the answers",
  }),
  writeLetter: endpoint<{ to: number; byMail: number; goes: string | null }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/letters",
    for: "signed-in",
    summary: "Write to students of a section, or to their guardians",
    once: true,
    body: object({
      handOutId: uuid.nullable().defined(),
      studentIds: array()
        .of(uuid.required())
        .required()
        .min(1, "Choose at least one student.")
        .max(MOST_AT_ONCE),
      to: string()
        .oneOf([...LETTER_TO])
        .required(),
      subject: string().trim().required("Give it a subject.").max(200),
      body: string()
        .trim()
        .required("Write something first.")
        .max(LONGEST, "A letter has 8,000 characters at most."),
    }).noUnknown(),
  }),
  noteLetterRead: endpoint<{ read: true }>()({
    method: "PUT",
    path: "/api/letters/{letterToId}",
    for: "signed-in",
    summary: "Note that a letter, or what came back on it, was read",
  }),
  answerLetter: endpoint<LettersView>()({
    method: "POST",
    path: "/api/letters/{letterToId}/answers",
    for: "signed-in",
    summary: "Answer a letter, or what came back on it",
    once: true,
    body: object({
      body: string()
        .trim()
        .required("Write something first.")
        .max(LONGEST, "An answer has 8,000 characters at most."),
    }).noUnknown(),
  }),
  answerMail: endpoint<{ answered: true }>()({
    method: "POST",
    path: "/api/post-room/{mailId}",
    for: "signed-in",
    summary: "Answer a message as by mail (demo mode only)",
    once: true,
    body: object({
      text: string().trim().required("Write something first.").max(LONGEST),
    }).noUnknown(),
  }),
  sectionOverTime: endpoint<SectionOverTime>()({
    method: "GET",
    path: "/api/sections/{sectionId}/over-time",
    for: "signed-in",
    summary: "Requests and rounds of a section over time, and which comments come again and again",
  }),
  openQuestions: endpoint<{ questions: OpenQuestion[]; clips: ClipView[] }>()({
    method: "GET",
    path: "/api/questions",
    for: "signed-in",
    summary: "Every question of a student that waits for one, with what it is about",
  }),
  closeThread: endpoint<{ closed: boolean }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/thread",
    for: "signed-in",
    summary: "Close the thread of a piece, or open it again",
    body: object({ closed: boolean().required() }).noUnknown(),
  }),
  setQuietHours: endpoint<{ quiet: QuietHours | null }>()({
    method: "PUT",
    path: "/api/school/quiet",
    for: "signed-in",
    summary: "Set the hours in which nothing is sent, or none",
    body: object({
      from: clock.nullable().defined(),
      until: clock.nullable().defined(),
    }).noUnknown(),
  }),
  setLanguage: endpoint<{ language: Language }>()({
    method: "PUT",
    path: "/api/language",
    for: "signed-in",
    summary: "The language in which a guardian reads the week sheet and its mail",
    body: object({ language: string().oneOf(LANGUAGE_IDS).required() }).noUnknown(),
  }),
  setWeekMail: endpoint<{ on: boolean }>()({
    method: "PUT",
    path: "/api/week/mail",
    for: "signed-in",
    summary: "Whether a guardian's week sheet is said by mail",
    body: object({ on: boolean().required() }).noUnknown(),
  }),
} as const;
