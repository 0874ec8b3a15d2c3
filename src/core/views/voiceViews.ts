import type { HeardWord } from "../speech/heard";

export const SHOWS = ["words", "title", "nothing"] as const;
/** What stands beside a clip's player: its transcript, a short title, or nothing. */
export type Shows = (typeof SHOWS)[number];

/** A voice clip, for its player. */
export type ClipView = {
  id: string;
  href: string;
  seconds: number;
  /** Whether it is brought to the common loudness; until then it plays as it came. */
  state: "being made" | "ready" | "as it came";
  /** Heights of the waveform, from 0 to 100; null until they are made. */
  peaks: number[] | null;
  by: string;
  mine: boolean;
  shows: Shows;
  title: string;
  /** `by`: who corrected it; null: it is as the program made it. */
  transcript: {
    state: "being made" | "made" | "none";
    why: string | null;
    /** From 0 to 1. */ part: number;
    by: string | null;
    words: HeardWord[];
  };
  /** Whether the one who asks has heard it to its end. */
  heard: boolean;
  /** When the student heard it, for the teacher; null: not yet, or not asked. */
  heardByStudent: string | null;
  /** Its words and title may be changed by the one who asks. */
  mayChange: boolean;
  revision: number;
};
