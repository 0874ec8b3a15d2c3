import { array, boolean, mixed, object, string } from "yup";
import type { RubricView, UploadView } from "../../views/handOutViews";
import { SIGNS } from "../../pieces/flags";
import type { SheetFigures } from "../../views/figureViews";
import { endpoint } from "../endpoint";
import { day, named, pieces, uuid, wall, wallOrNull } from "../fields";
import { planBody } from "../planBody";

const draft = { plan: mixed<object>().required(), kept: boolean().required() };

export const rubricBody = object({
  name: named("the rubric"),
  rubric: object({
    criteria: array()
      .of(
        object({
          id: uuid.required(),
          name: string().defined().max(300),
          note: string().defined().max(2000),
          weight: string().required().max(12),
          levels: array()
            .of(
              object({
                id: uuid.required(),
                name: string().defined().max(120),
                points: string().required().max(12),
                most: string().nullable().defined().max(12),
                descriptor: string().defined().max(2000),
              }).noUnknown(),
            )
            .required()
            .max(12),
        }).noUnknown(),
      )
      .required()
      .max(40),
    halves: boolean().optional(),
  })
    .noUnknown()
    .required(),
}).noUnknown();

/** Handing out: drafts, the act itself, what can be done after, and what it takes from the Shelf. */
export const handOutRoutes = {
  movePromise: endpoint<{ words: string[] }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/promise",
    for: "signed-in",
    summary: "Promise the work back at another time",
    body: object({ promised: wall.required("Say when it will be back.") }).noUnknown(),
  }),
  sheetFigures: endpoint<SheetFigures>()({
    method: "GET",
    path: "/api/hand-outs/{handOutId}/figures",
    for: "signed-in",
    summary: "A hand-out in figures: when work came in, how scores lie, how each question did",
  }),
  handOut: endpoint<{
    handOuts: {
      id: string;
      sectionId: string;
      section: string;
      students: number;
      opens: "now" | "later";
    }[];
  }>()({
    method: "POST",
    path: "/api/hand-outs",
    for: "signed-in",
    summary: "Hand out an assignment to one or more sections",
    once: true,
    body: object({
      plan: planBody,
      draftId: uuid.nullable().defined(),
      pastIsMeant: boolean().required(),
    }).noUnknown(),
  }),
  beginDraft: endpoint<{ id: string; revision: number }>()({
    method: "POST",
    path: "/api/drafts",
    for: "signed-in",
    summary:
      "Keep a hand-out that is not handed out yet (its id is the maker's; asking twice makes one)",
    body: object({ id: uuid.required(), ...draft }).noUnknown(),
  }),
  saveDraft: endpoint<{ revision: number }>()({
    method: "PUT",
    path: "/api/drafts/{draftId}",
    for: "signed-in",
    summary: "Keep a draft of a hand-out",
    ifMatch: true,
    body: object(draft).noUnknown(),
  }),
  deleteDraft: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/drafts/{draftId}",
    for: "signed-in",
    summary: "Throw a draft away",
  }),

  changeHandOut: endpoint<{ revision: number; words: string[]; told: number }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}",
    for: "signed-in",
    summary: "Change a hand-out after it was handed out",
    ifMatch: true,
    body: object({ plan: planBody, tell: boolean().required() }).noUnknown(),
  }),
  moveDue: endpoint<{ words: string[]; told: number; was: string }>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/move",
    for: "signed-in",
    summary: "Move the due time to another day",
    body: object({
      day: day.required("Say to which day."),
      tell: boolean().required(),
    }).noUnknown(),
  }),
  flagMany: endpoint<{ changed: number }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/flags",
    for: "signed-in",
    summary: "Flag or excuse many students at once, or take that back",
    body: object({
      pieceIds: pieces(400, "Nobody is chosen.", "400 students at most."),
      sign: string().oneOf(SIGNS).nullable().defined(),
    }).noUnknown(),
  }),
  extendMany: endpoint<{ changed: number; due: string }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/extensions",
    for: "signed-in",
    summary: "A due time of their own for many students at once, or that of everyone again",
    body: object({
      pieceIds: pieces(400, "Nobody is chosen.", "400 students at most."),
      due: wallOrNull,
      tell: boolean().required(),
    }).noUnknown(),
  }),
  withdraw: endpoint<{ withdrawn: boolean }>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/withdraw",
    for: "signed-in",
    summary: "Withdraw a hand-out, or bring it back",
    body: object({ withdrawn: boolean().required() }).noUnknown(),
  }),
  putAway: endpoint<{ away: boolean }>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/put-away",
    for: "signed-in",
    summary: "Put work that is over away from the lists, or bring it back",
    body: object({ away: boolean().required() }).noUnknown(),
  }),
  deleteHandOut: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/hand-outs/{handOutId}",
    for: "signed-in",
    summary: "Delete a hand-out that nobody has begun",
  }),
  copyHandOut: endpoint<{ draftId: string }>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/copy",
    for: "signed-in",
    summary: "Copy a hand-out as a new draft, with its dates moved to the corresponding lessons",
    once: true,
    body: object({ sectionIds: array().of(uuid.required()).required().max(40) }).noUnknown(),
  }),
  giveTo: endpoint<{ given: boolean }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/students/{studentId}",
    for: "signed-in",
    summary: "Give a hand-out to one student, or take it away (their work is kept)",
    body: object({ given: boolean().required() }).noUnknown(),
  }),
  setException: endpoint<{ due: string; own: boolean; excused: boolean }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/exception",
    for: "signed-in",
    summary: "A due time, excuse or version for one student",
    body: object({
      due: wallOrNull,
      excused: boolean().required(),
      versionId: uuid.nullable().defined(),
      tell: boolean().required(),
    }).noUnknown(),
  }),

  addUpload: endpoint<UploadView>()({
    method: "POST",
    path: "/api/uploads",
    for: "signed-in",
    summary: "Upload a file to be given with a task",
    bytes: 25_000_000,
  }),
  upload: endpoint<never>()({
    method: "GET",
    path: "/api/uploads/{uploadId}",
    for: "signed-in",
    summary: "A file, for those it was given to",
    gives: "application/octet-stream",
  }),
  saveCopy: endpoint<{ uploadId: string; when: string }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/copies/{materialId}",
    for: "signed-in",
    summary: "Put a changed file in the place of one's own copy",
    bytes: 25_000_000,
  }),

  rubrics: endpoint<RubricView[]>()({
    method: "GET",
    path: "/api/rubrics",
    for: "signed-in",
    summary: "The teacher's rubrics",
  }),
  addRubric: endpoint<RubricView>()({
    method: "POST",
    path: "/api/rubrics",
    for: "signed-in",
    summary: "Put a rubric on the Shelf",
    body: rubricBody,
    once: true,
  }),
  changeRubric: endpoint<RubricView & { carried: number; lost: number }>()({
    method: "PUT",
    path: "/api/rubrics/{rubricId}",
    for: "signed-in",
    summary: "Change a rubric; one that was scored with gets a new version",
    ifMatch: true,
    body: rubricBody
      .shape({
        scores: string()
          .oneOf(["keep", "carry"] as const)
          .nullable()
          .defined(),
      })
      .noUnknown(),
  }),
  deleteRubric: endpoint<{ deleted: true }>()({
    method: "DELETE",
    path: "/api/rubrics/{rubricId}",
    for: "signed-in",
    summary: "Take a rubric off the Shelf (work that has it keeps it)",
  }),
} as const;
