import type { ClassAnswers } from "../sectionNotes/sectionNote";
import type { ClipView } from "./voiceViews";

/** What was said to the class, or answered to it. */
export type SaidView = {
  id: string;
  author: string;
  mine: boolean;
  /** Empty where it was taken away. */
  body: string;
  clipId: string | null;
  when: string;
  /** `waits`: until a teacher has read it; `taken away`: its author alone still sees that. */
  state: "shown" | "waits" | "taken away";
  mayTakeAway: boolean;
  mayShow: boolean;
  mayReport: boolean;
  /** To teachers: that it was reported, and what was said of it; else null. */ reported:
    string | null;
};

/** A section note with its answers. */
export type SectionNoteView = SaidView & { answers: SaidView[] };

/** All that was said to the students of one hand-out. */
export type SectionNotes = {
  handOutId: string;
  notes: SectionNoteView[];
  clips: ClipView[];
  /** Whether the one who asks may say something to all. */ maySay: boolean;
  /** Whether, and how, the one who asks may answer. */ answers: ClassAnswers;
  /** The piece that a student's voice is recorded for; null for teachers. */ pieceId:
    string | null;
  /** How long one may speak, in seconds. */ mostSeconds: number;
};
