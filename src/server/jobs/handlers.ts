import { makeRendition } from "../items/renditions";
import { sendMail } from "../mail/postRoom";
import type { Handlers } from "./jobs";

/** Who does what. */
export const HANDLERS: Handlers = {
  rendition: makeRendition,
  mail: sendMail,
};
