import type { Picks } from "../../rubrics/rubric";
import { array, boolean, lazy, number, object, string } from "yup";
import { COMMENT_BODY } from "../../comments/schema";
import { CHANGED_MARK_BODY, NEW_MARK_BODY } from "../../marks/schema";
import {
  type CommentView,
  type MessageView,
  type PieceView,
  type Receipt,
  type RoundView,
} from "../../views/views";
import { type DeskPiece, type DraftMark, type EarlierMark } from "../../views/deskViews";
import type { UploadView } from "../../views/handOutViews";
import { MOST_IN_A_MESSAGE } from "../../threads/message";
import { endpoint } from "../endpoint";

import { askedOfRound, typed, uuid, wall } from "../fields";
import { work } from "./students";

export const markBody = object({
  ...NEW_MARK_BODY,
  /** The version it was made on. */
  versionId: uuid.required(),
  /** The comment of the bank it was made with. */
  commentId: uuid.nullable().defined(),
}).noUnknown();
export const changedMarkBody = object(CHANGED_MARK_BODY).noUnknown();

export const commentBody = object(COMMENT_BODY).noUnknown();

/** A level chosen in a rubric, and its points. */
export const pick = object({
  levelId: uuid.required(),
  points: string()
    .matches(/^\d{1,5}(\.\d{1,3})?$/, "Points are a number.")
    .required(),
}).noUnknown();
/** Levels chosen in a rubric, by criterion. */
const picks = typed<Picks>(
  lazy((value: Record<string, unknown> | undefined) =>
    object(
      Object.fromEntries(
        Object.keys(value ?? {})
          .slice(0, 60)
          .map((id) => [id, pick]),
      ),
    )
      .noUnknown()
      .required(),
  ),
);
const message = string().trim().defined().max(4000, "A message has 4,000 characters at most.");

/** A student's piece, the teachers' feedback on it, and the comment bank. */
export const pieceRoutes = {
  piece: endpoint<PieceView>()({
    method: "GET",
    path: "/api/pieces/{pieceId}",
    for: "signed-in",
    summary: "A student's own piece",
  }),
  openPiece: endpoint<{ seen: true }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/open",
    for: "signed-in",
    summary: "Note that the student has opened the piece and seen what came back",
  }),
  round: endpoint<RoundView>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/round",
    for: "signed-in",
    summary: "One round as it came back, on the version its marks were made on",
    query: { number: "which round, from 1" },
  }),
  saveWork: endpoint<{ revision: number; saved: string }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/work",
    for: "signed-in",
    summary: "Save unfinished work",
    ifMatch: true,
    body: object(work).noUnknown(),
  }),
  handIn: endpoint<Receipt>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/hand-in",
    for: "signed-in",
    summary: "Hand in",
    once: true,
    ifMatch: true,
    body: object({
      ...work,
      pressedAt: string()
        .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/, "This is not an instant.")
        .nullable()
        .optional(),
      changes: string()
        .trim()
        .max(600, "A sentence or two are enough: 600 characters at most.")
        .optional(),
      self: object({
        choice: string().max(60).nullable().defined(),
        words: string()
          .max(600, "Two or three sentences are enough: 600 characters at most.")
          .defined(),
      })
        .noUnknown()
        .nullable()
        .optional(),
    }).noUnknown(),
  }),
  takeBack: endpoint<{ state: string }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/take-back",
    for: "signed-in",
    summary: "Take a hand-in back to change it",
  }),
  answerMark: endpoint<{ openRequests: number }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/answers/{markId}",
    for: "signed-in",
    summary: "Tick a request, or accept or decline an edit",
    body: object({
      request: string()
        .oneOf(["open", "done"] as const)
        .nullable()
        .defined(),
      decision: string()
        .oneOf(["accepted", "declined"] as const)
        .nullable()
        .defined(),
    }).noUnknown(),
  }),
  sendMessage: endpoint<MessageView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/messages",
    for: "signed-in",
    summary: "Say something in the piece's thread, or about one mark",
    once: true,
    body: object({
      body: message,
      markId: uuid.nullable().defined(),
      checkpoint: number().integer().min(1).nullable().optional(),
      clipId: uuid.nullable().optional(),
      files: array(uuid.required()).max(MOST_IN_A_MESSAGE).optional(),
    }).noUnknown(),
  }),
  addMessageFile: endpoint<UploadView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/messages/files",
    for: "signed-in",
    summary: "Send a file that is to go with a message of the piece's thread",
    bytes: 25_000_000,
  }),

  deskPiece: endpoint<DeskPiece>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/desk",
    for: "signed-in",
    summary: "A piece as the section's teachers see it",
  }),
  saveFeedback: endpoint<{ revision: number; scoreWords: string | null }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/feedback",
    for: "signed-in",
    summary: "Keep the draft of the overall note and the score",
    ifMatch: true,
    body: object({
      overall: string().max(20_000, "An overall note has 20,000 characters at most.").defined(),
      score: string().trim().max(30).defined(),
      picks,
      reason: string().trim().max(600, "A reason has 600 characters at most.").optional(),
    }).noUnknown(),
  }),
  addMark: endpoint<DraftMark>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/marks",
    for: "signed-in",
    summary: "Put a mark on the work (its id is the maker's; asking twice makes one)",
    body: markBody,
  }),
  changeMark: endpoint<DraftMark>()({
    method: "PATCH",
    path: "/api/pieces/{pieceId}/marks/{markId}",
    for: "signed-in",
    summary: "Change a mark, or bring a deleted one back",
    ifMatch: true,
    body: changedMarkBody,
  }),
  deleteMark: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/pieces/{pieceId}/marks/{markId}",
    for: "signed-in",
    summary: "Delete a mark from the draft (changing it brings it back)",
  }),
  copyMark: endpoint<DraftMark>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/marks/{markId}/copies",
    for: "signed-in",
    summary: "Put a note of the draft on another piece too, on the whole of it, with its voice",
    body: object({ to: uuid.required(), id: uuid.required() }).noUnknown(),
  }),
  rule: endpoint<{ earlier: EarlierMark[]; marks: DraftMark[] }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/rulings/{markId}",
    for: "signed-in",
    summary: "Settle an earlier request, ask again, or leave it",
    body: object({
      ruling: string()
        .oneOf(["settled", "again"] as const)
        .nullable()
        .defined(),
      /** Asked again on the words offered in place of those that are gone. */
      likely: boolean().optional(),
    }).noUnknown(),
  }),
  handBack: endpoint<{ state: string; round: number }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/hand-back",
    for: "signed-in",
    summary: "Hand back, for good or to revise",
    once: true,
    body: object({
      outcome: string()
        .oneOf(["final", "revise"] as const)
        .required(),
      due: wall.nullable().defined(),
      tellScore: boolean().optional(),
      ...askedOfRound,
    }).noUnknown(),
  }),
  takeFeedbackBack: endpoint<{ state: string; wasRead: boolean }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/take-feedback-back",
    for: "signed-in",
    summary: "Take back what was handed back, while the student has not begun to revise",
  }),

  comments: endpoint<CommentView[]>()({
    method: "GET",
    path: "/api/comments",
    for: "signed-in",
    summary: "The teacher's comment bank",
  }),
  addComment: endpoint<CommentView>()({
    method: "POST",
    path: "/api/comments",
    for: "signed-in",
    summary: "Put a comment into the bank",
    body: commentBody,
    once: true,
  }),
  changeComment: endpoint<CommentView & { draftsChanged: number }>()({
    method: "PUT",
    path: "/api/comments/{commentId}",
    for: "signed-in",
    summary: "Change a comment of the bank",
    body: commentBody.shape({ drafts: boolean().optional() }).noUnknown(),
    ifMatch: true,
  }),
  deleteComment: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/comments/{commentId}",
    for: "signed-in",
    summary: "Take a comment out of the bank (marks made with it stay)",
  }),
} as const;
