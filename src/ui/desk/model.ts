import { createContext, useContext } from "react";
import type { QueueOrder } from "@/core/desk/queueOrder";
import type { LetterKeys, StripLook } from "@/core/desk/settings";
import type { DeskPiece, Here, QueueItem } from "@/core/views/deskViews";
import type { CommandId } from "./commands/commands";
import type { OwnKeys } from "./commands/keys";
import type { NoteHelp } from "./sheet/NoteFields";
import type { Bank } from "./state/useBank";
import type { DeskSession, DeskView } from "./store/DeskSession";
import type { Feedback } from "./store/feedback";
import type { MarkingState } from "./store/Marking";
import type { PieceState } from "./store/PieceStore";

/** The pile in the teacher's order, where they are in it, and going on. */
export type Pile = {
  items: readonly QueueItem[];
  current: number;
  item: QueueItem;
  order: QueueOrder;
  setOrder: (order: QueueOrder) => void;
  unreadOnly: boolean;
  setUnreadOnly: (only: boolean) => void;
  /** Another piece waits to be read. */
  waits: boolean;
  go: (by: 1 | -1) => void;
  goTo: (pieceId: string) => void;
  /** Keeps how far down the piece one has read. */
  scrolled: (top: number) => void;
  /** To the next that waits. @returns false where none does */
  goOn: () => boolean;
};

/** Where this pile comes from and what can be set about it. */
export type AboutPile = {
  title: string;
  pile: string;
  handOut: string | null;
  /** Null: the pile is of several hand-outs, and names stay as each has it. */
  anonymous: boolean | null;
  /** Ways through all pieces of this hand-out. */
  across: { href: string; words: string }[];
  back: { href: string; words: string };
  /** The name of the teacher who sits here. */ me: string;
  pace: string | null;
};

/** What a teacher has set for themselves. */
export type Own = {
  keys: OwnKeys;
  setKeys: (keys: OwnKeys) => void;
  stamps: readonly string[];
  setStamps: (stamps: string[]) => void;
  /** How the strip stands; null: with names where there is room for them. */
  strip: StripLook | null;
  foldStrip: () => void;
  /** How wide notes are, in px; null: as they come. */
  margin: number | null;
  /** Shown while it is dragged; kept with `setMargin`. */
  showMargin: (px: number) => void;
  setMargin: (px: number) => void;
  letters: LetterKeys;
  setLetters: (letters: LetterKeys) => void;
  /** Seconds in which what goes back can be called back. */
  hold: number;
};

/** Everything that screens and commands of the Desk have in common. */
export type DeskModel = {
  session: DeskSession;
  view: DeskView;
  marking: MarkingState;
  state: PieceState;
  piece: DeskPiece | undefined;
  feedback: Feedback | null;
  pile: Pile;
  bank: Bank;
  here: Here | null;
  help: NoteHelp;
  about: AboutPile;
  own: Own;
  run: (id: CommandId) => void;
};

const DeskContext = createContext<DeskModel | null>(null);
export const DeskProvider = DeskContext.Provider;

/** The Desk that a component stands on. */
export function useDesk(): DeskModel {
  const desk = useContext(DeskContext);
  if (!desk) throw new Error("This stands on no Desk.");
  return desk;
}

/** The same where a piece lies on it. */
export function usePieceOnDesk(): DeskModel & { piece: DeskPiece } {
  const desk = useDesk();
  if (!desk.piece) throw new Error("No piece lies on the Desk.");
  return desk as DeskModel & { piece: DeskPiece };
}
