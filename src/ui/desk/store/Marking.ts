import { fillPlaceholders, slotsOf, type PlaceholderValues } from "@/core/comments/placeholders";
import { isEdit, isStamp, transposed } from "@/core/marks/mark";
import { ON_TEXT, type Place, type Stroke } from "@/core/marks/place";
import type { MarkKind, Nature } from "@/core/marks/schema";
import { criterionNamed } from "@/core/rubrics/rubric";
import { sentenceAround } from "@/core/text/noteText";
import { toGraphemes } from "@/core/text/pageText";
import { plainText } from "@/core/text/plainText";
import type { Range } from "@/core/text/selectors";
import { wordAt } from "@/core/text/wordSteps";
import type { CommentView } from "@/core/views/views";
import type { DeskPiece, DraftMark } from "@/core/views/deskViews";
import { leftRecordings } from "../../voice/recorder/chunks";
import { Observable } from "../../keeping/Observable";
import type { World } from "../../keeping/world";
import type { Composing } from "../sheet/Composer";
import type { Picked } from "../sheet/pickWords";
import type { Tool } from "../../marks/tools";
import { NOTHING_TO_MARK } from "./changes";
import type { NewMark, PieceStore } from "./PieceStore";

const NO_WORDS = "Select the words first, with the mouse or with → and Shift+→.";
const ON_THE_WHOLE: Place = { on: "whole", itemId: null };

export type MarkingState = {
  /** What is selected on the sheet. */
  picked: Picked | null;
  /** The mark that is being written. */
  composing: Composing | null;
  /** The mark that acts are about, and the one that is being changed. */
  chosen: string | null;
  editing: string | null;
  /** A stretch of a recording that was begun: at which second. */
  begun: { itemId: string; at: number } | null;
};
const NOTHING: MarkingState = {
  picked: null,
  composing: null,
  chosen: null,
  editing: null,
  begun: null,
};

type On = Pick<Composing, "place" | "start" | "end" | "quote">;

/** What the placeholders of comments stand for on this piece. */
export function valuesOf(piece: DeskPiece | undefined): PlaceholderValues {
  const { called, title, due, scoreWords } = piece ?? {};
  return { name: called || undefined, title, due, score: scoreWords ?? undefined };
}

/** Putting marks on one piece: what is selected, what is being written, and what is put on with one press. */
export class Marking extends Observable<MarkingState> {
  constructor(
    private readonly store: PieceStore,
    private readonly world: World,
  ) {
    super(NOTHING);
  }

  private get piece(): DeskPiece | undefined {
    return this.store.getState().piece;
  }
  get text(): string {
    const doc = this.piece?.doc;
    return doc ? plainText(doc).text : "";
  }
  /** What is selected, where it is more than a caret. */
  get words(): Picked | null {
    const { picked } = this.state;
    return picked && picked.on === "text" && picked.end <= picked.start ? null : picked;
  }
  get chosenMark(): DraftMark | undefined {
    return this.piece?.marks.find((m) => m.id === this.state.chosen);
  }
  /** What placeholders of comments are filled with. */
  get values(): PlaceholderValues {
    return valuesOf(this.piece);
  }

  readonly pick = (picked: Picked | null): void => this.set({ picked });
  readonly choose = (chosen: string | null): void => this.set({ chosen });
  readonly edit = (editing: string | null): void => this.set({ editing });
  /** Nothing selected, nothing begun: for the next piece. */
  clear(): void {
    this.set(NOTHING);
  }

  /** Begins a mark on what is selected. */
  compose(kind: Composing["kind"], nature: Nature, begin: string): void {
    const { picked } = this.state;
    if (!picked || (kind !== "insert" && !this.words)) return this.store.say(NO_WORDS);
    const on = this.placeOf(picked);
    const caret = kind === "insert" && picked.on === "text" ? { start: on.end, end: on.end } : {};
    const sentence = this.sentence(picked);
    this.begin({ kind, nature, ...on, ...caret, sentence, begin, commentId: null });
  }

  composeAt(place: Place, from: Partial<Composing> = {}): void {
    const on = { place, start: 0, end: 0, quote: "", sentence: "" };
    this.begin({
      ...{ kind: "note", nature: "remark", begin: "", commentId: null },
      ...on,
      ...from,
    } as Composing);
  }

  /**
   * Begins a stretch of a recording; the second time it ends there, and a note on it is begun.
   *
   * @param at second of the recording; a stretch can be ended before where it began
   * @returns whether it was ended
   */
  stretch(itemId: string, at: number): boolean {
    const { begun } = this.state;
    if (begun?.itemId !== itemId) {
      this.set({ begun: { itemId, at } });
      return false;
    }
    this.set({ begun: null });
    const [from, to] = [Math.min(begun.at, at), Math.max(begun.at, at)];
    this.composeAt({ on: "time", itemId, from, to: to > from ? to : null });
    return true;
  }

  /** A note that is spoken: on what is selected, else on the whole. */
  speak(): void {
    const { words } = this;
    if (words)
      this.composeAt(ON_TEXT, {
        ...this.placeOf(words),
        sentence: this.sentence(words),
        speak: true,
      });
    else this.composeAt(ON_THE_WHOLE, { speak: true });
    // Kept before the first word: what a killed tab leaves behind is offered again where it stood.
    this.typed({});
  }

  /** What is written so far is on the device with each letter. */
  readonly typed = (part: Partial<Composing>): void => {
    const { composing } = this.state;
    if (composing) void this.world.device.keep(this.key, { ...composing, ...part }, 0);
  };

  /** The mark is made, or dropped. */
  composed(mark: NewMark | null): DraftMark | null {
    // The student took the hand-in back meanwhile: what is written stays in its field, and why is said.
    if (mark && this.piece && !this.piece.versionId) {
      this.store.say(NOTHING_TO_MARK);
      return null;
    }
    this.set({ composing: null });
    void this.world.device.release(this.key);
    return mark && this.store.add(mark);
  }

  /** A note half written when the tab was closed is opened again where it stood. */
  async recover(): Promise<void> {
    const { piece } = this;
    if (!piece?.versionId) return;
    const found = await this.world.device.kept<Composing>(this.key);
    if (!found) return;
    const { value } = found;
    const spoken = value.speak && (await leftRecordings(`note ${piece.id}`)).length > 0;
    // What was recorded is offered; nothing is recorded that nobody asked for.
    if ((spoken || value.begin.trim() !== "") && !this.state.composing)
      this.set({ composing: { ...value, speak: false } });
  }

  /** Moves the chosen mark onto what is selected now. */
  rehang(): void {
    const { words, chosenMark } = this;
    if (!chosenMark || !words || (chosenMark.place.on === "text") !== (words.on === "text"))
      return this.store.say("Choose a mark with [ and ], and select the words it should stand on.");
    const { place, start, end, quote } = this.placeOf(words);
    this.store.change(chosenMark, words.on === "text" ? { start, end, quote } : { place, quote });
  }

  /** Puts a mark on what is selected with one press. */
  put(kind: MarkKind): void {
    const { words } = this;
    if (!words) return this.store.say(NO_WORDS);
    const on = this.placeOf(words);
    if (kind !== "transpose") return void this.store.add({ kind, ...on });
    const replacement = transposed(on.quote);
    if (!replacement)
      return this.store.say("Select two words or two letters that should change places.");
    this.store.add({ kind, ...on, replacement });
  }

  /** A comment of the bank on what is selected, or on a place: at once, or in the composer where it leaves something to say. */
  take(comment: CommentView, at: { place?: Place; range?: Range } = {}): void {
    const { piece } = this;
    if (!piece) return;
    const body = fillPlaceholders(comment.text, this.values);
    const on = this.placeAsked(at);
    const begun = { nature: comment.nature, begin: body, commentId: comment.id };
    if (!on) return this.composeAt(ON_THE_WHOLE, begun);
    if (slotsOf(body).length > 0) return this.composeAt(on.place, { ...on, ...begun });
    this.store.add({
      ...on,
      ...asMark(comment, on.place, body),
      commentId: comment.id,
      criterionId: criterionNamed(piece.rubric?.rubric, comment.criterion),
      points: comment.points,
    });
  }

  /** A comment let go over a word of the text: on that word. */
  takeOnWord(comment: CommentView, at: number): void {
    const range = wordAt(this.text, at);
    if (range) this.take(comment, { range });
  }

  /** Something was put on a place with what lies in the hand. */
  placed(place: Place, tool: Tool, strokes?: Stroke[]): void {
    if (strokes) this.store.add({ kind: "ink", place, strokes });
    else if (tool.kind === "stamp") this.store.add({ kind: tool.stamp, place, body: tool.text });
    else this.composeAt(place);
  }

  private begin(composing: Composing): void {
    // What could not be kept is not begun: nobody writes a note that then is nowhere.
    if (this.piece && !this.piece.versionId) return this.store.say(NOTHING_TO_MARK);
    this.set({ composing });
  }

  private get key(): string {
    return `note ${this.store.pieceId} ${this.piece?.versionId}`;
  }

  private placeAsked({ place, range }: { place?: Place; range?: Range }): On | null {
    if (place) return { place, start: 0, end: 0, quote: "" };
    if (range) return { place: ON_TEXT, ...range, quote: this.text.slice(range.start, range.end) };
    return this.words && this.placeOf(this.words);
  }

  private placeOf(picked: Picked): On {
    if (picked.on === "page") {
      const { itemId, page, area, words, quote } = picked;
      return { place: { on: "page", itemId, page, area, words }, start: 0, end: 0, quote };
    }
    const quote = this.text.slice(picked.start, picked.end);
    return { place: ON_TEXT, ...toGraphemes(this.text, picked), quote };
  }

  private sentence(picked: Picked): string {
    return picked.on === "text" ? sentenceAround(this.text, picked) : picked.quote;
  }
}

/** What of a comment can stand on this place: an edit only on words, a stamp asks for nothing. */
function asMark(
  comment: CommentView,
  place: Place,
  body: string,
): Pick<NewMark, "kind" | "nature" | "body" | "replacement"> {
  const edit = isEdit(comment);
  const onWords = place.on === "text" || (place.on === "page" && place.words !== null);
  const asks = isStamp(comment) && comment.nature === "request";
  const kind = edit && !onWords ? "note" : comment.kind;
  return {
    kind,
    nature: asks ? "remark" : comment.nature,
    body: kind === "stamp" ? body.slice(0, 40) : body,
    replacement: edit ? comment.replacement : "",
  };
}
