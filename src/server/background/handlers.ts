import { sendBatch } from "../handingBack/sendBatch";
import { letScoresCome } from "../handingBack/withheld";
import { makeRendition } from "../items/renditions";
import { sendMail } from "../mail/postRoom";
import { makeSound, makeTranscript } from "../speech/makeSound";
import { speakAloud } from "../speech/aloud";
import type { Handlers } from "../jobs/jobs";

/** Who does what. */
export const HANDLERS: Handlers = {
  handBack: sendBatch,
  scores: letScoresCome,
  rendition: makeRendition,
  mail: sendMail,
  sound: makeSound,
  transcript: makeTranscript,
  aloud: speakAloud,
};
