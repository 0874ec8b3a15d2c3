import type { Audience, PlanMaterial } from "../../handouts/plan";
import { array, boolean, lazy, mixed, number, object, string } from "yup";
import { FILE_TYPES, PART_KINDS, SHOW_TIMES } from "../../handouts/parts";
import { FINAL_SCORES } from "../../rounds/roundsRule";
import { LATE_UNITS, type LatePolicy } from "../../scores/latePolicy";
import { SCORE_KINDS } from "../../scores/scales";
import type { RubricView, UploadView } from "../../views/handOutViews";
import { endpoint } from "../endpoint";
import { day, doc, named, typed, uuid, wall, wallOrNull } from "../fields";

const decimal = string().matches(
  /^(\d{1,5}([.,]\d{1,3})?)?$/,
  "This is a number such as 10 or 7.5.",
);
const whole = string().matches(/^\d{0,5}$/, "This is a whole number, or empty.");

/** Which fields there must be follows from `kind`. */
export const latePolicy = typed<LatePolicy>(
  lazy((value: { kind?: string } | null) =>
    value?.kind === "deduct"
      ? object({
          kind: string()
            .oneOf(["deduct"] as const)
            .required(),
          percent: string().matches(/\S/, "Write something here.").required().max(8),
          per: string().oneOf(LATE_UNITS).required(),
          floorPercent: string().defined().max(8),
        }).noUnknown()
      : object({
          kind: string()
            .oneOf(["flag", "closed"] as const)
            .required(),
        }).noUnknown(),
  ),
);

const material = typed<PlanMaterial>(
  lazy((value: { kind?: string } | null) => {
    const shared = {
      id: uuid.required(),
      use: string()
        .oneOf(["look", "copy"] as const)
        .required(),
      title: string().defined().max(160),
    };
    if (value?.kind === "link")
      return object({
        ...shared,
        kind: string()
          .oneOf(["link"] as const)
          .required(),
        href: string().defined().max(2000),
      }).noUnknown();
    if (value?.kind === "file")
      return object({
        ...shared,
        kind: string()
          .oneOf(["file"] as const)
          .required(),
        uploadId: uuid.required(),
      }).noUnknown();
    return object({
      ...shared,
      kind: string()
        .oneOf(["text"] as const)
        .required(),
      doc,
    }).noUnknown();
  }),
);

const part = object({
  id: uuid.required(),
  kind: string().oneOf(PART_KINDS).required(),
  label: string().defined().max(120, "A name has 120 characters at most."),
  types: array().of(string().oneOf(FILE_TYPES).required()).required(),
  minutes: number()
    .integer()
    .min(1, "A recording has at least one minute.")
    .max(60, "A recording has 60 minutes at most.")
    .nullable()
    .defined(),
  setId: uuid.nullable().defined(),
  show: string().oneOf(SHOW_TIMES).required(),
  tries: number()
    .integer()
    .min(1, "There is at least one try.")
    .max(20, "There are 20 tries at most.")
    .nullable()
    .defined(),
}).noUnknown();

const work = object({
  title: string()
    .matches(/\S/, "Write something here.")
    .required("Give the work a title.")
    .max(160, "A title has 160 characters at most."),
  numbered: boolean().required(),
  emoji: string().defined().max(16),
  instructions: doc,
  parts: array().of(part).required().max(12, "There are 12 things to hand in at most."),
  materials: array().of(material).required().max(40, "A task has 40 materials at most."),
  versions: array()
    .of(
      object({
        id: uuid.required(),
        name: string().defined().max(60),
        instructions: doc,
      }).noUnknown(),
    )
    .required()
    .max(8, "There are 8 versions at most."),
  selfAssessment: object({
    question: string()
      .matches(/\S/, "Write something here.")
      .required("Write the question.")
      .max(200),
    answers: string()
      .oneOf(["words", "scale"] as const)
      .required(),
    choices: array().of(string().defined().max(60)).required().max(8),
  })
    .noUnknown()
    .nullable()
    .defined(),
  mayTakeBack: boolean().required(),
  openBefore: boolean().required(),
  wordsLeast: whole.defined(),
  wordsMost: whole.defined(),
  clipId: uuid.nullable().optional(),
}).noUnknown();

const audience = typed<Audience>(
  lazy((value: { kind?: string } | null) =>
    value?.kind === "chosen"
      ? object({
          kind: string()
            .oneOf(["chosen"] as const)
            .required(),
          groups: array().of(uuid.required()).required(),
          students: array().of(uuid.required()).required(),
        }).noUnknown()
      : object({
          kind: string()
            .oneOf(["section"] as const)
            .required(),
        }).noUnknown(),
  ),
);

const row = object({
  sectionId: uuid.required(),
  opens: wallOrNull,
  due: wall.required("Say when it is due."),
  closes: wallOrNull,
  promised: wallOrNull,
  audience,
  exceptions: array()
    .of(
      object({
        studentId: uuid.required(),
        due: wallOrNull,
        excused: boolean().required(),
        versionId: uuid.nullable().defined(),
      }).noUnknown(),
    )
    .required()
    .max(200),
}).noUnknown();

const counting = object({
  kind: string().oneOf(SCORE_KINDS).required(),
  points: decimal.defined(),
  category: string().defined().max(60),
  counts: boolean().required(),
  extraCredit: boolean().required(),
  graceMinutes: number()
    .integer()
    .min(0, "Grace cannot be less than none.")
    .max(1440, "Grace is one day (1440 minutes) at most.")
    .required("Say how many minutes of grace; 0 for none."),
  late: typed<LatePolicy | null>(
    lazy((value: unknown) =>
      value === null ? mixed<never>().nullable().defined() : (latePolicy as never),
    ),
  ),
  roundsMost: whole.defined(),
  roundsUntil: wallOrNull,
  final: string().oneOf(FINAL_SCORES).required(),
  winBackPercent: decimal.defined(),
  rubricId: uuid.nullable().defined(),
  archiveDays: whole.defined(),
}).noUnknown();

/** Checked by the form too, as one types. */
export const planBody = object({
  work,
  rows: array().of(row).required().max(40, "A hand-out goes to 40 sections at most."),
  counting,
}).noUnknown();
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
  withdraw: endpoint<{ withdrawn: boolean }>()({
    method: "POST",
    path: "/api/hand-outs/{handOutId}/withdraw",
    for: "signed-in",
    summary: "Withdraw a hand-out, or bring it back",
    body: object({ withdrawn: boolean().required() }).noUnknown(),
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
  giveTo: endpoint<{ pieceId: string; given: boolean }>()({
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
