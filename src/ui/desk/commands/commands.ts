import type { Nature } from "@/core/marks/schema";
import type { DeskModel } from "../model";
import type { Composing } from "../sheet/Composer";
import { INK, WORDS, ZOOM_STEP } from "../../marks/tools";
import type { DeskSession } from "../store/DeskSession";
import { handBackOrAsk, leave, whyNotBack, whyNotRevise } from "./handBack";
import { noNoteToMove } from "./moveNote";
import { goPages, goToPage, noPageField, noPages, nothingToTurn, turnPage } from "./pages";
import { markStretch, noRecording, noteMoment, playBack, playOrStop } from "./recordings";
import { noneDone, noRequests, ruleOn, settleDone } from "./requests";
import { undoLast } from "./undo";
import { noMarks, stepMark, stepWords, takePin } from "./words";

/** Something one can do at the Desk. */
export type Command = {
  id: string;
  /** The key it comes with; a teacher may set another. */
  key: string;
  words: string;
  /** Where the card of keys lists it. */
  of: string;
  /** What is said where it cannot be done now; null: it can. */
  when?: (desk: DeskModel) => string | null;
  run: (desk: DeskModel) => void;
};

/** A mark that is written hides what changed: its words must be seen. */
function compose(
  { session }: DeskModel,
  kind: Composing["kind"],
  nature: Nature,
  begin: string,
): void {
  session.leaveComparing();
  session.marking.compose(kind, nature, begin);
}

function speak({ session }: DeskModel): void {
  session.leaveComparing();
  session.marking.speak();
}

const noMarkChosen = ({ session }: DeskModel): string | null =>
  session.marking.chosenMark ? null : "Choose a mark first, with [ and ].";

function said({ store }: DeskSession, happened: boolean, otherwise: string): void {
  if (!happened) store.say(otherwise);
}

/**
 * Everything one can do at the Desk, in one table: keys, the card of keys, the palette, buttons and tests use the
 * same entries.
 */
export const DESK_COMMANDS = [
  {
    id: "next",
    key: "n",
    words: "next piece",
    of: "the pile",
    run: ({ pile }) => pile.go(1),
  },
  {
    id: "previous",
    key: "p",
    words: "previous piece",
    of: "the pile",
    run: ({ pile }) => pile.go(-1),
  },
  {
    id: "unread",
    key: "u",
    words: "next piece that waits",
    of: "the pile",
    when: ({ pile }) => (pile.waits ? null : "Nothing else waits in this queue."),
    run: ({ pile }) => void pile.goOn(),
  },
  {
    id: "leave",
    key: "l",
    words: "leave as a draft, and on to the next that waits",
    of: "the pile",
    run: (desk) => void leave(desk),
  },
  {
    id: "handBack",
    key: "h",
    words: "hand back",
    of: "the pile",
    when: whyNotBack,
    run: handBackOrAsk,
  },
  {
    id: "revise",
    key: "r",
    words: "hand back to revise",
    of: "the pile",
    when: whyNotRevise,
    run: ({ session }) => session.setRevising(true),
  },
  {
    id: "flag",
    key: "f",
    words: "flag: away, unfinished, on paper, excused",
    of: "the pile",
    run: ({ session }) => session.show("flag"),
  },
  {
    id: "word",
    key: "ArrowRight",
    words: "next word",
    of: "words",
    run: ({ session }) => stepWords(session, "next"),
  },
  {
    id: "wordBack",
    key: "ArrowLeft",
    words: "previous word",
    of: "words",
    run: ({ session }) => stepWords(session, "previous"),
  },
  {
    id: "longer",
    key: "Shift+ArrowRight",
    words: "one word more",
    of: "words",
    run: ({ session }) => stepWords(session, "longer"),
  },
  {
    id: "shorter",
    key: "Shift+ArrowLeft",
    words: "one word less",
    of: "words",
    run: ({ session }) => stepWords(session, "shorter"),
  },
  {
    id: "sentenceNext",
    key: "ArrowDown",
    words: "next sentence",
    of: "words",
    run: ({ session }) => stepWords(session, "next sentence"),
  },
  {
    id: "sentenceBack",
    key: "ArrowUp",
    words: "previous sentence",
    of: "words",
    run: ({ session }) => stepWords(session, "previous sentence"),
  },
  {
    id: "note",
    key: "Enter",
    words: "note on what is selected",
    of: "marks",
    run: (desk) => compose(desk, "note", "remark", ""),
  },
  {
    id: "bank",
    key: ";",
    words: "comment of the bank on what is selected",
    of: "marks",
    run: (desk) => compose(desk, "note", "remark", ";"),
  },
  {
    id: "request",
    key: "q",
    words: "note that asks for something",
    of: "marks",
    run: (desk) => compose(desk, "note", "request", ""),
  },
  {
    id: "praise",
    key: "y",
    words: "note that praises",
    of: "marks",
    run: (desk) => compose(desk, "note", "praise", ""),
  },
  {
    id: "speak",
    key: "Shift+V",
    words: "voice note on what is selected, or on the whole",
    of: "marks",
    run: (desk) => speak(desk),
  },
  {
    id: "whole",
    key: "w",
    words: "note on the whole sheet",
    of: "marks",
    run: ({ session }) => session.marking.composeAt({ on: "whole", itemId: null }),
  },
  {
    id: "moment",
    key: "m",
    words: "note on this moment of the recording",
    of: "marks",
    when: ({ session }) => noRecording(session),
    run: ({ session }) => noteMoment(session),
  },
  {
    id: "stretch",
    key: ",",
    words: "begin a stretch of the recording, and end it with a note",
    of: "marks",
    when: ({ session }) => noRecording(session),
    run: ({ session }) => markStretch(session),
  },
  {
    id: "play",
    key: "Shift+P",
    words: "play the recording, or stop it",
    of: "marks",
    when: ({ session }) => noRecording(session),
    run: ({ session }) => playOrStop(session),
  },
  {
    id: "back",
    key: "Shift+B",
    words: "five seconds back in the recording",
    of: "marks",
    when: ({ session }) => noRecording(session),
    run: ({ session }) => playBack(session),
  },
  {
    id: "delete",
    key: "d",
    words: "edit: take the words out",
    of: "marks",
    run: ({ session }) => session.marking.put("delete"),
  },
  {
    id: "replace",
    key: "e",
    words: "edit: other words instead",
    of: "marks",
    run: (desk) => compose(desk, "replace", "remark", ""),
  },
  {
    id: "insert",
    key: "i",
    words: "edit: put words in after the selection",
    of: "marks",
    run: (desk) => compose(desk, "insert", "remark", ""),
  },
  {
    id: "transpose",
    key: "Shift+T",
    words: "edit: change the first and last word round",
    of: "marks",
    run: ({ session }) => session.marking.put("transpose"),
  },
  {
    id: "tick",
    key: "t",
    words: "stamp: tick",
    of: "marks",
    run: ({ session }) => session.marking.put("tick"),
  },
  {
    id: "cross",
    key: "x",
    words: "stamp: cross",
    of: "marks",
    run: ({ session }) => session.marking.put("cross"),
  },
  {
    id: "question",
    key: "j",
    words: "stamp: question",
    of: "marks",
    run: ({ session }) => session.marking.put("question"),
  },
  {
    id: "star",
    key: "*",
    words: "stamp: star",
    of: "marks",
    run: ({ session }) => session.marking.put("star"),
  },
  {
    id: "keep",
    key: "k",
    words: "keep the chosen note in the bank",
    of: "marks",
    when: ({ session }) =>
      session.marking.chosenMark?.kind === "note" ? null : "Choose a note first, with [ and ].",
    run: ({ session, bank }) => void bank.keepNote(session.marking.chosenMark!),
  },
  {
    id: "markNext",
    key: "]",
    words: "next mark",
    of: "marks",
    when: ({ session }) => noMarks(session),
    run: ({ session }) => stepMark(session, 1),
  },
  {
    id: "markBack",
    key: "[",
    words: "previous mark",
    of: "marks",
    when: ({ session }) => noMarks(session),
    run: ({ session }) => stepMark(session, -1),
  },
  {
    id: "change",
    key: "Shift+Enter",
    words: "change the chosen mark",
    of: "marks",
    when: noMarkChosen,
    run: ({ session }) => session.marking.edit(session.marking.chosenMark!.id),
  },
  {
    id: "rehang",
    key: "Shift+M",
    words: "move the chosen mark onto the selected words",
    of: "marks",
    run: ({ session }) => session.marking.rehang(),
  },
  {
    id: "moveNote",
    key: "Shift+O",
    words: "move the chosen note to another student's piece",
    of: "marks",
    when: noNoteToMove,
    run: ({ session }) => session.show("move"),
  },
  {
    id: "remove",
    key: "Delete",
    words: "delete the chosen mark",
    of: "marks",
    when: noMarkChosen,
    run: ({ session }) => session.store.removeMark(session.marking.chosenMark!),
  },
  {
    id: "undo",
    key: "z",
    words: "undo what was done last, handing back too while it can be called back",
    of: "marks",
    run: (desk) => void undoLast(desk),
  },
  {
    id: "redo",
    key: "Shift+Z",
    words: "do again",
    of: "marks",
    run: ({ session }) =>
      said(session, session.store.redo(), "There is nothing to do again on this piece."),
  },
  {
    id: "toolWords",
    key: "v",
    words: "tool: words",
    of: "pages and pictures",
    run: ({ session }) => session.take(WORDS),
  },
  {
    id: "toolPin",
    key: "a",
    words: "tool: pin, or drag an area",
    of: "pages and pictures",
    run: ({ session }) => takePin(session),
  },
  {
    id: "toolInk",
    key: "g",
    words: "tool: ink",
    of: "pages and pictures",
    run: ({ session }) => session.take(INK),
  },
  {
    id: "toolEraser",
    key: "Shift+G",
    words: "tool: eraser",
    of: "pages and pictures",
    run: ({ session }) => session.take({ kind: "eraser" }),
  },
  {
    id: "larger",
    key: "+",
    words: "larger",
    of: "pages and pictures",
    run: ({ session }) => session.zoomBy(ZOOM_STEP),
  },
  {
    id: "smaller",
    key: "-",
    words: "smaller",
    of: "pages and pictures",
    run: ({ session }) => session.zoomBy(1 / ZOOM_STEP),
  },
  {
    id: "fit",
    key: "0",
    words: "as wide as the sheet",
    of: "pages and pictures",
    run: ({ session }) => session.zoomTo(1),
  },
  {
    id: "wholePage",
    key: ".",
    words: "a whole page in view",
    of: "pages and pictures",
    run: ({ session }) => session.wholePage(),
  },
  {
    id: "pageNext",
    key: "Shift+ArrowDown",
    words: "next page",
    of: "pages and pictures",
    when: ({ session }) => noPages(session),
    run: ({ session }) => goPages(session, 1),
  },
  {
    id: "pageBack",
    key: "Shift+ArrowUp",
    words: "previous page",
    of: "pages and pictures",
    when: ({ session }) => noPages(session),
    run: ({ session }) => goPages(session, -1),
  },
  {
    id: "goToPage",
    key: "#",
    words: "go to a page by its number",
    of: "pages and pictures",
    when: ({ session }) => noPageField(session),
    run: ({ session }) => goToPage(session),
  },
  {
    id: "turn",
    key: "Shift+R",
    words: "turn the page or picture in view, on the screen only",
    of: "pages and pictures",
    when: ({ session }) => nothingToTurn(session),
    run: ({ session }) => turnPage(session),
  },
  {
    id: "overall",
    key: "o",
    words: "overall note",
    of: "feedback",
    run: ({ session }) => session.focus("overall"),
  },
  {
    id: "dock",
    key: "/",
    words: "search the comment bank",
    of: "feedback",
    run: ({ session }) => session.focus("dock"),
  },
  {
    id: "rubric",
    key: "b",
    words: "rubric",
    of: "feedback",
    when: ({ piece }) => (piece?.rubric ? null : "This work has no rubric."),
    run: ({ session }) => session.askRubric(),
  },
  {
    id: "score",
    key: "s",
    words: "score",
    of: "feedback",
    run: ({ session }) => session.focus("score"),
  },
  {
    id: "settle",
    key: "Shift+S",
    words: "settle the request of the last round, and on to the next",
    of: "feedback",
    when: noRequests,
    run: (desk) => ruleOn(desk, "settled"),
  },
  {
    id: "askAgain",
    key: "Shift+A",
    words: "ask that request again, and on to the next",
    of: "feedback",
    when: noRequests,
    run: (desk) => ruleOn(desk, "again"),
  },
  {
    id: "settleDone",
    key: "Shift+D",
    words: "settle all requests that the student says are done",
    of: "feedback",
    when: noneDone,
    run: settleDone,
  },
  {
    id: "compare",
    key: "c",
    words: "what changed since the last round",
    of: "feedback",
    when: ({ piece }) => (piece?.comparison ? null : "There is no earlier round to compare with."),
    run: ({ session }) => session.turn("comparing"),
  },
  {
    id: "beside",
    key: "\\",
    words: "open beside the work: task, versions, notes",
    of: "feedback",
    run: ({ session }) => session.turn("beside"),
  },
  {
    id: "strip",
    key: "Shift+N",
    words: "the strip with names, or with moons alone",
    of: "the pile",
    run: ({ own }) => own.foldStrip(),
  },
  {
    id: "palette",
    key: "Ctrl+K",
    words: "find an act, a piece or a comment",
    of: "feedback",
    run: ({ session }) => session.show("palette"),
  },
  {
    id: "keys",
    key: "?",
    words: "this card",
    of: "feedback",
    run: ({ session }) => session.show("keys"),
  },
] as const satisfies readonly Command[];

export type CommandId = (typeof DESK_COMMANDS)[number]["id"];

export const commandOf = (id: CommandId): Command => DESK_COMMANDS.find((c) => c.id === id)!;

/** Does it, or says why not. */
export function runCommand(id: CommandId, desk: DeskModel): void {
  const command = commandOf(id);
  const why = command.when?.(desk) ?? null;
  if (why !== null) desk.session.store.say(why);
  else command.run(desk);
}
