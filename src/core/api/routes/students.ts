import { array, boolean, lazy, mixed, number, object, string } from "yup";
import { QUESTION_KINDS, type Answer, type Question } from "../../questions/question";
import type { Comparison } from "../../text/compare";
import type { UploadView } from "../../views/handOutViews";
import type { LimitsView, MailView, RemindersView } from "../../views/reminderViews";
import type { CheckedReceipt } from "../../views/views";
import type {
  CheckpointView,
  ItemView,
  QuestionSetView,
  Room,
  ShownVerdict,
} from "../../views/workViews";
import { endpoint } from "../endpoint";
import { doc, named, typed, uuid } from "../fields";

/** Answers by part and question; each is read against its question by the server. */
export const work = { doc, answers: mixed<Record<string, Record<string, unknown>>>().optional() };

const choice = object({ id: uuid.required(), text: string().defined().max(600) }).noUnknown();
const choices = array().of(choice).required().max(30);
const shared = {
  id: uuid.required(),
  text: string().defined().max(4000, "A question has 4,000 characters at most."),
  points: string().defined().max(8),
};
const KINDS = {
  "one choice": { choices, right: string().defined() },
  "several choices": { choices, right: array().of(uuid.required()).required() },
  "short text": {
    accepted: array().of(string().defined().max(400)).required().max(40),
    exactCase: boolean().required(),
    exactAccents: boolean().required(),
    exactSpaces: boolean().required(),
  },
  number: {
    value: string().defined().max(30),
    unit: string().defined().max(30),
    tolerance: string().defined().max(20),
  },
  matching: { left: choices, right: choices, pairs: mixed<Record<string, string>>().required() },
  ordering: { items: choices },
  "free text": { lines: number().integer().min(1).max(40).required() },
} as const;
/** Which fields there must be follows from `kind`; whether they make sense is the core's (checkQuestions). */
const question = typed<Question>(
  lazy((value: { kind?: keyof typeof KINDS } | null) =>
    object({
      ...shared,
      kind: string().oneOf(QUESTION_KINDS).required(),
      ...(KINDS[value?.kind ?? "free text"] ?? {}),
    }).noUnknown(),
  ),
);
const setBody = object({
  name: named("the set"),
  questions: array().of(question).required().max(200, "A set has 200 questions at most."),
}).noUnknown();

const megabytes = (most: number) =>
  number()
    .integer("This is a whole number.")
    .min(1, "At least 1.")
    .max(most, `${most.toLocaleString("en")} at most.`)
    .required("Give a number.");

/** The student's side: saving and showing work of every kind, and what goes with it. */
export const studentRoutes = {
  sendCheckpoint: endpoint<{ number: number; revision: number; when: string }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/checkpoints",
    for: "signed-in",
    summary: "Show the teacher unfinished work; this is no hand-in",
    once: true,
    ifMatch: true,
    body: object(work).noUnknown(),
  }),
  checkpoint: endpoint<CheckpointView & { comparison: Comparison | null; since: number | null }>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/checkpoint",
    for: "signed-in",
    summary: "A checkpoint as the teachers see it, with what changed since another",
    query: { number: "Which one", since: "Compared with this one; otherwise with the one before" },
  }),
  tryAnswer: endpoint<ShownVerdict & { triesUsed: number; triesLeft: number | null }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/tries",
    for: "signed-in",
    summary: "Try an answer where right and wrong are shown at once",
    once: true,
    body: object({
      partId: uuid.required(),
      questionId: uuid.required(),
      answer: typed<Answer>(mixed().nullable()),
    }).noUnknown(),
  }),
  askToReopen: endpoint<{ asked: true }>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/reopen",
    for: "signed-in",
    summary: "Ask for closed work to be opened again",
    once: true,
    body: object({
      why: string()
        .defined()
        .max(600, "Two or three sentences are enough: 600 characters at most."),
    }).noUnknown(),
  }),
  addPicture: endpoint<UploadView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/pictures",
    for: "signed-in",
    summary: "Send a picture that is to stand in the writing",
    bytes: 25_000_000,
  }),

  beginTransfer: endpoint<never>()({
    method: "POST",
    path: "/api/transfers",
    for: "signed-in",
    summary:
      "Begin the upload of a file (tus 1.0.0, creation): Upload-Length, and in Upload-Metadata id, pieceId, partId and name",
    gives: "text/plain",
  }),
  transferState: endpoint<never>()({
    method: "HEAD",
    path: "/api/transfers/{transferId}",
    for: "signed-in",
    summary: "How much of an upload has arrived (tus)",
    gives: "text/plain",
  }),
  transferMore: endpoint<never>()({
    method: "PATCH",
    path: "/api/transfers/{transferId}",
    for: "signed-in",
    summary: "Send more of an upload (tus)",
    gives: "text/plain",
  }),
  stopTransfer: endpoint<never>()({
    method: "DELETE",
    path: "/api/transfers/{transferId}",
    for: "signed-in",
    summary: "Give an upload up (tus, termination)",
    gives: "text/plain",
  }),
  items: endpoint<{ items: ItemView[]; room: Room }>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/items",
    for: "signed-in",
    summary: "The files of one's unfinished work, and the room that is left",
  }),
  addItem: endpoint<ItemView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/items",
    for: "signed-in",
    summary:
      "Put a file that has arrived into the piece (its id is the maker's; asking twice makes one)",
    body: object({
      itemId: uuid.required(),
      transferId: uuid.required(),
      partId: uuid.required(),
      replaces: uuid.nullable().defined(),
    }).noUnknown(),
  }),
  orderItems: endpoint<{ ordered: number }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/items",
    for: "signed-in",
    summary: "Put the files of a part in order",
    body: object({ ids: array().of(uuid.required()).required().max(400) }).noUnknown(),
  }),
  changeItem: endpoint<{ removed: boolean }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/items/{itemId}",
    for: "signed-in",
    summary: "Take a file out of the unfinished work, or put it back",
    body: object({ removed: boolean().required() }).noUnknown(),
  }),
  restoreItem: endpoint<ItemView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/items/{itemId}/restore",
    for: "signed-in",
    summary: "Go back to the photo as it was taken",
  }),
  item: endpoint<never>()({
    method: "GET",
    path: "/api/items/{itemId}",
    for: "signed-in",
    summary: "A student's file, whole or a range of it",
    gives: "application/octet-stream",
    query: { as: "original (the default), shown, pages, playable or still" },
  }),
  checkReceipt: endpoint<CheckedReceipt>()({
    method: "GET",
    path: "/api/receipts",
    for: "signed-in",
    summary: "What stands behind the code of a receipt",
    query: { code: "The code, with or without its dash" },
  }),
  acceptClaim: endpoint<{ lateness: string; accepted: boolean }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/claim",
    for: "signed-in",
    summary: "Take the device's word for when it was handed in, or go back to the server's time",
    body: object({ accepted: boolean().required() }).noUnknown(),
  }),

  questionSets: endpoint<QuestionSetView[]>()({
    method: "GET",
    path: "/api/question-sets",
    for: "signed-in",
    summary: "The teacher's sets of questions",
  }),
  addQuestionSet: endpoint<QuestionSetView>()({
    method: "POST",
    path: "/api/question-sets",
    for: "signed-in",
    summary: "Put a set of questions on the Shelf",
    once: true,
    body: setBody,
  }),
  changeQuestionSet: endpoint<QuestionSetView>()({
    method: "PUT",
    path: "/api/question-sets/{setId}",
    for: "signed-in",
    summary: "Change a set; one that was handed out gets a new version",
    ifMatch: true,
    body: setBody,
  }),
  deleteQuestionSet: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/question-sets/{setId}",
    for: "signed-in",
    summary: "Take a set off the Shelf (work that has it keeps it)",
  }),
  questionSetQti: endpoint<never>()({
    method: "GET",
    path: "/api/question-sets/{setId}/qti",
    for: "signed-in",
    summary: "A set as a QTI 3.0 package",
    gives: "application/zip",
  }),
  readQti: endpoint<{
    questions: QuestionSetView["questions"];
    problems: { where: string; words: string }[];
  }>()({
    method: "POST",
    path: "/api/question-sets/read",
    for: "signed-in",
    summary: "Read a QTI 3.0 package or item into questions, to be looked at and kept",
    bytes: 20_000_000,
  }),

  reminders: endpoint<RemindersView>()({
    method: "GET",
    path: "/api/reminders",
    for: "signed-in",
    summary: "One's own reminders, and how they come",
  }),
  setReminders: endpoint<RemindersView>()({
    method: "PUT",
    path: "/api/reminders",
    for: "signed-in",
    summary: "Switch a kind of reminder on or off, in the app and by mail",
    body: object({
      kind: string()
        .oneOf(["handed out", "due soon", "handed back"] as const)
        .required(),
      inApp: boolean().required(),
      byMail: boolean().required(),
    }).noUnknown(),
  }),
  mail: endpoint<MailView[]>()({
    method: "GET",
    path: "/api/post-room",
    for: "signed-in",
    summary: "The messages of the post room that were made for oneself (demo mode only)",
  }),
  mailSource: endpoint<never>()({
    method: "GET",
    path: "/api/post-room/{mailId}",
    for: "signed-in",
    summary: "A message as it went out (demo mode only)",
    gives: "message/rfc822",
  }),
  setLimits: endpoint<LimitsView>()({
    method: "PUT",
    path: "/api/school/limits",
    for: "signed-in",
    summary: "How much students can hand in",
    body: object({
      fileMegabytes: megabytes(2000),
      pieceMegabytes: megabytes(10_000),
      studentMegabytes: megabytes(100_000),
      recordingMinutes: megabytes(60),
    }).noUnknown(),
  }),
} as const;
