import type { DisplayShows, LookReaders } from "../looks/shown";
import type { RichDoc } from "../text/richDoc";
import type { Range } from "../text/selectors";
import type { AnsweredMark } from "./views";
import type { ClipView } from "./voiceViews";
import type { ItemView } from "./workViews";

/** A mark by someone who was shown the work. */
export type ShownMark = AnsweredMark & {
  author: string;
  mine: boolean;
  when: string;
  /** `waits`: until a teacher has read it; `taken away`: its author alone still sees that. */
  state: "shown" | "waits" | "taken away";
  mayShow: boolean;
  mayTakeAway: boolean;
  mayReport: boolean;
  /** For teachers: it was reported, and why. */ reported: string | null;
};

/** Work that is shown to others, for one who may read it: a checkpoint in a look, or a hand-in in a display. */
export type ShownView = {
  kind: "look" | "display";
  handOutId: string;
  pieceId: string;
  lookId: string | null;
  title: string;
  section: string;
  writer: string;
  /** The one who asks is its writer. */ own: boolean;
  /** By whom a look is read; null: by the teachers. Displays have none. */ reader: string | null;
  until: string;
  open: boolean;
  /** What a look asks, and the words it is about. */
  question: { words: string; at: Range | null; quote: string } | null;
  asked: string | null;
  doc: RichDoc;
  items: ItemView[];
  marks: ShownMark[];
  clips: ClipView[];
  maySay: boolean;
  /** A teacher reads first what students say. */ readFirst: boolean;
  /** Whether names are shown to students. */ named: boolean;
  /** Edits are offered in looks; handed-in work is not changed. */ mayOffer: boolean;
  /** The piece that a student's voice is recorded for; null for teachers. */ voiceOf:
    string | null;
  mostSeconds: number;
  /** The reader of a look says that they are through. */ done: boolean;
  mayEnd: boolean;
};

export type DisplaySettings = {
  shows: DisplayShows;
  pieceIds: string[];
  named: boolean;
  readFirst: boolean;
  onlyHandedIn: boolean;
  /** Wall-clock time of the school. */ closes: string;
};
export type DisplayedPiece = {
  pieceId: string;
  name: string;
  own: boolean;
  /** The first words, or a picture. */ begins: string;
  picture: string | null;
  said: number;
  waits: number;
  reported: number;
};
/** A display, for its teachers and for the students who may see it. */
export type DisplayView = {
  handOutId: string;
  title: string;
  section: string;
  open: boolean;
  until: string;
  named: boolean;
  readFirst: boolean;
  onlyHandedIn: boolean;
  pieces: DisplayedPiece[];
  /** For teachers: how it is set. */ settings: DisplaySettings | null;
  mayChange: boolean;
};

export type LookRuleSettings = {
  readers: LookReaders;
  named: boolean;
  readFirst: boolean;
  /** Wall-clock time of the school. */ ends: string;
};
/** On a hand-out's sheet: its display and its looks. */
export type ShownOfSheet = {
  display:
    (DisplaySettings & { open: boolean; until: string; waits: number; reported: number }) | null;
  looks:
    | (LookRuleSettings & {
        open: boolean;
        until: string;
        pairs: { writer: string; reader: string; state: string }[];
      })
    | null;
  asked: LookLine[];
  waits: number;
  reported: number;
  mayChange: boolean;
  handedIn: { pieceId: string; name: string }[];
  /** What is offered as an end: wall-clock time of a lesson in a week. */ suggestedEnd: string;
};

/** A look as it stands in a list. */
export type LookLine = {
  id: string;
  pieceId: string;
  title: string;
  writer: string;
  reader: string;
  question: string;
  until: string;
  state: "open" | "read" | "over";
  said: number;
  /** For teachers: what waits to be read, or was reported. */ waits?: number;
};

/** For a student on their own piece. */
export type OwnLooks = {
  asked: LookLine[];
  /** Whom they may ask beside their teacher; null: nobody. */
  classmates: {
    until: string;
    named: boolean;
    /** Those to choose from; empty where the program says who it is. */ people: {
      id: string;
      name: string;
    }[];
    /** Whom the program drew, by name where names are shown. */ drawn: string | null;
  } | null;
  display: { until: string; said: number } | null;
};

/** The same with the hand-out it is about. */
export type PieceLooks = OwnLooks & { handOutId: string };

/** On My work: what others ask and show. */
export type ForReaders = {
  looks: LookLine[];
  displays: { handOutId: string; title: string; section: string; until: string }[];
};
