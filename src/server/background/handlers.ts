import { makeRendition } from "../items/renditions";
import { sendMail } from "../mail/postRoom";
import { makeSound, makeTranscript } from "../speech/makeSound";
import { speakAloud } from "../speech/aloud";
import type { Handlers } from "../jobs/jobs";

/** Who does what. */
export const HANDLERS: Handlers = {
  rendition: makeRendition,
  mail: sendMail,
  sound: makeSound,
  transcript: makeTranscript,
  aloud: speakAloud,
};
