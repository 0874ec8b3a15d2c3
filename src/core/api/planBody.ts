import type { Audience, PlanMaterial } from "../handouts/plan";
import { array, boolean, lazy, mixed, number, object, string } from "yup";
import { FILE_TYPES, PART_KINDS, SHOW_TIMES } from "../handouts/parts";
import { FINAL_SCORES } from "../rounds/roundsRule";
import { LATE_UNITS, type LatePolicy } from "../scores/latePolicy";
import { SCORE_KINDS } from "../scores/scales";
import { doc, typed, uuid, wall, wallOrNull } from "./fields";

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
  showKey: boolean(),
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
