import type { SentFile } from "../threads/message";
/** A word that came back on a letter, or that its writer added. */
export type LetterWord = {
  id: string;
  author: string;
  mine: boolean;
  body: string;
  when: string;
  byMail: boolean;
};

/** A letter as one got it. */
export type ReceivedLetter = {
  /** Of this copy, for who got it. */ id: string;
  from: string;
  section: string;
  /** The child it is about, for guardians. */ about: string | null;
  subject: string;
  body: string;
  when: string;
  unread: boolean;
  words: LetterWord[];
};

/** A letter as its teachers see it, with what became of each copy. */
export type SentLetter = {
  letterId: string;
  by: string;
  mine: boolean;
  section: string;
  title: string | null;
  subject: string;
  body: string;
  when: string;
  /** Held by the quiet hours until then. */ held: string | null;
  unread: number;
  to: {
    id: string;
    name: string;
    /** The child, where it went to a guardian. */ about: string | null;
    read: string | null;
    byMail: boolean;
    words: LetterWord[];
    unread: number;
  }[];
};

export type LettersView = { received: ReceivedLetter[]; sent: SentLetter[] };

/** A student's question that waits for a teacher. */
export type OpenQuestion = {
  pieceId: string;
  student: string;
  title: string;
  section: string;
  href: string;
  words: {
    id: string;
    body: string;
    clipId: string | null;
    files: SentFile[];
    when: string;
    about: string | null;
  }[];
  /** Where the answer goes: to the mark or the checkpoint that was asked about last, or the whole. */
  answers: { markId: string | null; checkpoint: number | null };
  lookId: string | null;
};
