import { string } from "yup";

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Whether a text has the shape of an id (a UUID of any version, RFC 9562). */
export const isId = (text: unknown): text is string => typeof text === "string" && UUID.test(text);

/** An id at the way in. Yup's own uuid() knows versions 1 to 5 only; ours are version 7. */
export const uuid = string().matches(UUID, "This is not an id.");
