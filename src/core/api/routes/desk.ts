import { array, boolean, mixed, number, object, string } from "yup";
import type { BankFault, Merged } from "../../formats/commentBank";
import type { Pick } from "../../rubrics/rubric";
import { type CommentUses } from "../../views/views";
import {
  SETTINGS,
  type AcrossCriterion,
  type AcrossQuestions,
  type Here,
  type PrivateNote,
  type Touched,
  type VersionShown,
} from "../../views/deskViews";
import { PIECE_FLAGS, type PieceFlag } from "../../pieces/flags";
import { endpoint } from "../endpoint";
import { uuid } from "../fields";
import { pick } from "./pieces";

const points = string()
  .matches(/^\d{1,4}(\.\d{1,3})?$/, "Points are a number such as 1 or 0.5.")
  .nullable()
  .defined();
const question = { partId: uuid.required(), questionId: uuid.required(), points };
const pasted = string()
  .required("There is nothing in it.")
  .max(5_000_000, "This is more than 5 MB.");

/** What the Desk asks beside the piece and its draft: who is here, notes, versions, judgements, the bank's exchange. */
export const deskRoutes = {
  deskVersion: endpoint<VersionShown>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/versions/{versionId}",
    for: "signed-in",
    summary: "An earlier hand-in as it was, for the section's teachers",
  }),
  here: endpoint<Here>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/here",
    for: "signed-in",
    summary: "Say that one is at this piece, and hear who else is",
    body: object({ active: boolean().required() }).noUnknown(),
  }),
  setFlag: endpoint<{ flag: PieceFlag | null }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/flag",
    for: "signed-in",
    summary: "Flag a piece: away, unfinished, on paper",
    body: object({ flag: string().oneOf(PIECE_FLAGS).nullable().defined() }).noUnknown(),
  }),
  excuse: endpoint<{ excused: boolean }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/excused",
    for: "signed-in",
    summary: "Excuse a student from a piece, or take that back",
    body: object({ excused: boolean().required() }).noUnknown(),
  }),
  addPrivateNote: endpoint<PrivateNote[]>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/private-notes",
    for: "signed-in",
    summary: "Write a private note on the piece or its student",
    once: true,
    body: object({
      about: string()
        .oneOf(["piece", "student"] as const)
        .required(),
      body: string()
        .trim()
        .required("Write something first.")
        .max(4000, "A private note has 4,000 characters at most."),
      uploads: array().of(uuid.required()).max(12, "A note takes 12 files at most.").required(),
    }).noUnknown(),
  }),
  deletePrivateNote: endpoint<PrivateNote[]>()({
    method: "DELETE",
    path: "/api/pieces/{pieceId}/private-notes/{noteId}",
    for: "signed-in",
    summary: "Take one's own private note away",
  }),
  annotations: endpoint<object>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/annotations",
    for: "signed-in",
    summary: "The draft's marks as W3C Web Annotations",
    gives: "application/ld+json",
  }),
  bringAnnotations: endpoint<{ added: number; faults: string[] }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/annotations",
    for: "signed-in",
    summary: "Bring W3C Web Annotations in as marks",
    body: object({ text: pasted }).noUnknown(),
  }),
  choosePick: endpoint<{ revision: number; picks: Record<string, Pick>; score: string }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/picks",
    for: "signed-in",
    summary: "Choose the level of one criterion",
    ifMatch: true,
    body: object({
      criterionId: uuid.required(),
      pick: pick.nullable().defined().default(undefined),
    }).noUnknown(),
  }),
  judgeOne: endpoint<{ touched: Touched; questions: AcrossQuestions }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/judgements",
    for: "signed-in",
    summary: "Say what one student's answer is worth",
    body: object({ ...question, alone: boolean().required() }).noUnknown(),
  }),
  judgeAll: endpoint<{ touched: Touched; questions: AcrossQuestions }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/judgements",
    for: "signed-in",
    summary: "Say what all answers like this are worth",
    body: object({ ...question, key: string().defined().max(4000) }).noUnknown(),
  }),
  acrossQuestions: endpoint<AcrossQuestions>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/judgements",
    for: "signed-in",
    summary: "All answers to a hand-out's questions, alike ones together",
  }),
  acrossCriterion: endpoint<AcrossCriterion>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/criterion",
    for: "signed-in",
    summary: "All pieces of a hand-out, for one criterion",
    query: { criterion: "the criterion's id" },
  }),
  setAnonymous: endpoint<{ anonymous: boolean }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/anonymous",
    for: "signed-in",
    summary: "Hide or show names on the Desk",
    body: object({ anonymous: boolean().required() }).noUnknown(),
  }),
  setSetting: endpoint<{ kept: true }>()({
    method: "PUT",
    path: "/api/settings",
    for: "signed-in",
    summary: "Keep what a teacher has set for themselves",
    body: object({
      name: string().oneOf(SETTINGS).required(),
      value: mixed<object | string | number>().nullable().optional(),
    }).noUnknown(),
  }),

  commentUses: endpoint<CommentUses>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/comment-uses",
    for: "signed-in",
    summary: "How one used comments, on this hand-out and before",
  }),
  commentDrafts: endpoint<{ drafts: number }>()({
    method: "GET",
    path: "/api/comments/{commentId}/drafts",
    for: "signed-in",
    summary: "How many drafts say this comment unchanged",
  }),
  saidBefore: endpoint<{
    times: number;
    inBank: { id: string; text: string; shorthand: string | null } | null;
  }>()({
    method: "POST",
    path: "/api/comments/said",
    for: "signed-in",
    summary: "How often one has said nearly this",
    body: object({ text: string().required().max(4000) }).noUnknown(),
  }),
  bankOut: endpoint<object>()({
    method: "GET",
    path: "/api/comments/out",
    for: "signed-in",
    summary: "One's comment bank as CSV or JSON",
    query: { as: "csv or json" },
    gives: "text/csv",
  }),
  readBankIn: endpoint<{ merged: Merged[]; faults: BankFault[] }>()({
    method: "POST",
    path: "/api/comments/read",
    for: "signed-in",
    summary: "What a file or list of comments would bring",
    body: object({ text: pasted }).noUnknown(),
  }),
  bringIn: endpoint<{ added: number }>()({
    method: "POST",
    path: "/api/comments/bring",
    for: "signed-in",
    summary: "Bring comments into one's bank",
    once: true,
    body: object({
      text: pasted,
      alsoNear: array().of(number().integer().min(0).required()).max(5000).required(),
      folder: string().max(120).defined(),
    }).noUnknown(),
  }),
} as const;
