import { array, boolean, number, object, string } from "yup";
import { BATCH_OUTCOMES, MOST_LOOKED_AT, OUTCOMES, SCORES_GO } from "../../handingBack/outcome";
import type { BatchView, LookedAt, TakenBack } from "../../views/handBackViews";
import type { PieceView } from "../../views/views";
import { endpoint } from "../endpoint";
import type { Known } from "../../fetching/comeBack";
import type { ReturnedFile } from "../../rounds/cameBack";
import { askedOfRound, pieces, uuid, wall, wallOrNull } from "../fields";

/** So many pieces go in one act at most: a school year of one teacher's sections. */
export const MOST_AT_ONCE = 400;

const piecesOf = (most: number) =>
  pieces(most, "Choose at least one piece.", `At most ${most} pieces go in one act.`);

/** Handing back many at once, now or at a time. */
export const handingBackRoutes = {
  makeHandBack: endpoint<BatchView>()({
    method: "POST",
    path: "/api/hand-backs",
    for: "signed-in",
    summary: "Hand back several pieces in one act, now or at a time",
    once: true,
    body: object({
      pieceIds: piecesOf(MOST_AT_ONCE),
      outcome: string()
        .oneOf([...BATCH_OUTCOMES])
        .required(),
      due: wallOrNull,
      at: wallOrNull,
      hold: number().integer().min(0).max(600).required(),
      message: string().trim().defined().max(4000, "A message has 4,000 characters at most."),
      scores: string()
        .oneOf([...SCORES_GO])
        .required(),
      scoresAt: wallOrNull,
      tellScore: boolean().optional(),
      ...askedOfRound,
    }).noUnknown(),
  }),
  markLookedAt: endpoint<LookedAt>()({
    method: "POST",
    path: "/api/hand-backs/looked-at",
    for: "signed-in",
    summary: "Hand work back that needs no feedback, with a word that it was looked at",
    once: true,
    body: object({
      pieceIds: piecesOf(MOST_LOOKED_AT),
      words: string()
        .trim()
        .required("Say a word, such as “Looked at.”")
        .max(200, "A word has 200 characters at most; more is feedback."),
    }).noUnknown(),
  }),
  handBackAct: endpoint<BatchView>()({
    method: "GET",
    path: "/api/hand-backs/{batchId}",
    for: "signed-in",
    summary: "What became of an act of handing back",
  }),
  callHandBack: endpoint<BatchView>()({
    method: "POST",
    path: "/api/hand-backs/{batchId}/call-back",
    for: "signed-in",
    summary: "Call an act back: what has not gone yet stays a draft",
  }),
  goOnHandBack: endpoint<BatchView>()({
    method: "POST",
    path: "/api/hand-backs/{batchId}/go-on",
    for: "signed-in",
    summary: "Go on with an act that was interrupted; what is back already stays as it is",
  }),
  takeHandBack: endpoint<TakenBack>()({
    method: "POST",
    path: "/api/hand-backs/{batchId}/take-back",
    for: "signed-in",
    summary: "Take back what an act handed back, and learn who had read it",
  }),
  wholeHandOut: endpoint<unknown>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/zip",
    for: "signed-in",
    summary: "Everything of a hand-out as one zip: a folder per student, and a table of who is who",
    gives: "application/zip",
  }),
  folderCodes: endpoint<Known[]>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/folders",
    for: "signed-in",
    summary:
      "The pieces of a hand-out as the folders of its zip name them, for files that come back",
  }),
  addReturnedFile: endpoint<{ added: number }>()({
    method: "POST",
    path: "/api/feedback-files",
    for: "signed-in",
    summary: "Lay a file into the drafts of one piece or of several: it goes back with them",
    body: object({
      uploadId: uuid.required(),
      pieceIds: array().of(uuid.required()).required().min(1).max(MOST_AT_ONCE),
    }).noUnknown(),
  }),
  removeReturnedFile: endpoint<{ files: ReturnedFile[] }>()({
    method: "DELETE",
    path: "/api/pieces/{pieceId}/feedback-files/{uploadId}",
    for: "signed-in",
    summary: "Take a file out of a draft",
  }),
  asStudent: endpoint<PieceView>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/as-student",
    for: "signed-in",
    summary: "A draft as its student will see it when it is handed back",
    query: {
      outcome: "final, revise, or draft (as the draft says)",
      due: "when the revision is due, as a wall-clock time of the school",
      told: "yes: the score of a round to revise is told",
      scores: "later: without the score, which comes later",
    },
  }),
  setOutcome: endpoint<{ outcome: string | null }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/outcome",
    for: "signed-in",
    summary: "Say in the draft what will happen to its piece",
    body: object({
      outcome: string()
        .oneOf([...OUTCOMES])
        .nullable()
        .defined(),
      due: wall.nullable().defined(),
    }).noUnknown(),
  }),
} as const;
