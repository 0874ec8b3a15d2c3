import { isWall } from "../handouts/checkDates";
import { array, mixed, number, object, string, type MixedSchema } from "yup";
import { uuid } from "../ids";
import { MOST_MORE } from "../rounds/asked";
import type { RichDoc } from "../text/richDoc";

/** Fields that many routes have in common. */
export const wall = string()
  .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/, "Give a date and a time.")
  .test("exists", "There is no such date and time.", (text) => !text || isWall(text));
export const day = string()
  .matches(/^\d{4}-\d\d-\d\d$/, "Give a date.")
  .test("exists", "There is no such date.", (text) => !text || isWall(`${text}T12:00`));
export const clock = string().matches(/^([01]\d|2[0-3]):[0-5]\d$/, "Give a time such as 09:05.");
export { uuid } from "../ids";
/** A document, read by the core (`text/richDoc`), which says what is wrong with it. */
export const doc = mixed<RichDoc>().required("The text is missing.").meta({ richDoc: true });
/** What is said of the round that a revision opens; both may be left out. */
export const askedOfRound = {
  /** Rounds from that one on; null: as many as it needs. */
  more: number().integer().min(1).max(MOST_MORE).nullable().optional(),
  /** Which parts are to be worked on; none: all. */
  parts: array().of(uuid.required()).max(50).optional(),
};
/** Chosen pieces. @param nobody what is said where none is @param tooMany what is said where they are more than `most` */
export const pieces = (most: number, nobody: string, tooMany: string) =>
  array().of(uuid.required()).min(1, nobody).max(most, tooMany).required();
export const weekday = number().integer().min(1).max(7);
/** A wall-clock time or nothing; an empty text is nothing. */
export const wallOrNull = wall.defined().nullable();
export const named = (what: string, most = 120) =>
  string()
    .matches(/\S/, "Give it a name.")
    .required(`Give ${what} a name.`)
    .max(most, `A name has ${most} characters at most.`);
export const days = object({
  name: named("it"),
  startsOn: day.required("Say when it begins."),
  endsOn: day.required("Say when it ends."),
}).noUnknown();

/** A field whose shape follows from one of its own fields, typed as what it is when it has been checked. */
export const typed = <T>(schema: unknown): MixedSchema<T> => schema as MixedSchema<T>;
