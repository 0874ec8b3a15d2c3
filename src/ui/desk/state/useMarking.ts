"use client";

import { useEffect, useMemo, useState, type RefObject } from "react";
import { fillPlaceholders, slotsOf, type PlaceholderValues } from "@/core/comments/placeholders";
import { isEdit, isStamp, transposed } from "@/core/marks/mark";
import { type MarkKind, type Nature } from "@/core/marks/schema";
import { ON_TEXT, type Place, type Stroke } from "@/core/marks/place";
import { criterionNamed } from "@/core/rubrics/rubric";
import { sentenceAround } from "@/core/text/noteText";
import { plainText } from "@/core/text/plainText";
import { leftRecordings } from "../../recorder/chunks";
import { toGraphemes } from "@/core/text/pageText";
import { stepWord, type WordStep } from "@/core/text/wordSteps";
import type { CommentView, DeskPiece, DraftMark } from "@/core/views/views";
import { keep, kept, release } from "../../device";
import { textOfPage } from "../../items/PdfPages";
import { selectRange } from "../../text/selection";
import type { Composing } from "../sheet/Composer";
import { pickOn, selectOnPage, type Picked } from "../sheet/pickWords";
import type { Tool } from "../sheet/tools";
import type { Desk } from "./useDeskPiece";

const NO_WORDS = "Select the words first, with the mouse or with → and Shift+→.";

type Given = {
  desk: Desk;
  piece: DeskPiece | undefined;
  values: PlaceholderValues;
  tool: Tool;
  comparing: boolean;
  onCompose: () => void;
  sheetRef: RefObject<HTMLDivElement | null>;
  writingRef: RefObject<HTMLDivElement | null>;
};

/** What is selected on the sheet, and putting marks on it: by key, from the bank, at a place. */
export function useMarking({
  desk,
  piece,
  values,
  tool,
  comparing,
  onCompose,
  sheetRef,
  writingRef,
}: Given) {
  const [picked, setPicked] = useState<Picked | null>(null);
  const [composing, setComposing] = useState<Composing | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const text = useMemo(() => (piece?.doc ? plainText(piece.doc).text : ""), [piece?.doc]);
  const words = picked && picked.on === "text" && picked.end <= picked.start ? null : picked;
  const placeOf = (p: Picked): { place: Place; start: number; end: number; quote: string } =>
    p.on === "text"
      ? { place: ON_TEXT, ...toGraphemes(text, p), quote: text.slice(p.start, p.end) }
      : {
          place: { on: "page", itemId: p.itemId, page: p.page, area: p.area, words: p.words },
          start: 0,
          end: 0,
          quote: p.quote,
        };
  const sentence = (p: Picked | null) =>
    p?.on === "text" ? sentenceAround(text, p) : (p?.quote ?? "");

  function compose(
    kind: Composing["kind"],
    nature: Nature,
    begin: string,
    commentId: string | null = null,
  ) {
    if (!picked || (kind !== "insert" && !words)) return desk.setProblem(NO_WORDS);
    const on = placeOf(picked);
    const caret = kind === "insert" && picked.on === "text" ? { start: on.end, end: on.end } : {};
    onCompose();
    setComposing({ kind, nature, ...on, ...caret, sentence: sentence(picked), begin, commentId });
  }
  function composeAt(
    place: Place,
    nature: Nature = "remark",
    begin = "",
    commentId: string | null = null,
  ) {
    setComposing({
      kind: "note",
      nature,
      place,
      start: 0,
      end: 0,
      quote: "",
      sentence: "",
      begin,
      commentId,
    });
  }
  /** A note that is spoken: on what is selected, else on the whole. */
  function speak() {
    const on = words
      ? placeOf(words)
      : { place: { on: "whole" as const, itemId: null }, start: 0, end: 0, quote: "" };
    onCompose();
    const next: Composing = {
      kind: "note",
      nature: "remark",
      ...on,
      sentence: words ? sentence(words) : "",
      begin: "",
      commentId: null,
      speak: true,
    };
    setComposing(next);
    // Kept before the first word: what a killed tab leaves behind is offered again where it stood.
    typed(next);
  }
  /** Moves the chosen mark onto what is selected now. */
  function rehang(mark: DraftMark | undefined) {
    if (!mark || !words || (mark.place.on === "text") !== (words.on === "text"))
      return desk.setProblem(
        "Choose a mark with [ and ], and select the words it should stand on.",
      );
    const { place, start, end, quote } = placeOf(words);
    void desk.change(mark, words.on === "text" ? { start, end, quote } : { place, quote });
  }
  function put(kind: MarkKind, more: { replacement?: string; body?: string } = {}) {
    if (!words) return desk.setProblem(NO_WORDS);
    const on = placeOf(words);
    if (kind === "transpose") {
      const replacement = transposed(on.quote);
      if (!replacement)
        return desk.setProblem("Select two words or two letters that should change places.");
      return void desk.add({ kind, ...on, replacement });
    }
    void desk.add({ kind, ...on, ...more });
  }
  /** A comment of the bank on what is selected, or on a place: at once, or in the composer where it leaves something to say. */
  function take(
    comment: CommentView,
    place: Place | null = null,
    range: { start: number; end: number } | null = null,
  ) {
    if (!piece) return;
    const body = fillPlaceholders(comment.text, values);
    const on = place
      ? { place, start: 0, end: 0, quote: "" }
      : range
        ? { place: ON_TEXT, ...range, quote: text.slice(range.start, range.end) }
        : words
          ? placeOf(words)
          : null;
    if (!on) return composeAt({ on: "whole", itemId: null }, comment.nature, body, comment.id);
    if (slotsOf(body).length > 0)
      return setComposing({
        kind: "note",
        nature: comment.nature,
        ...on,
        sentence: "",
        begin: body,
        commentId: comment.id,
      });
    const criterionId = criterionNamed(piece.rubric?.rubric, comment.criterion);
    const edit = isEdit(comment);
    const kind =
      edit && on.place.on !== "text" && !(on.place.on === "page" && on.place.words)
        ? "note"
        : comment.kind;
    const nature = isStamp(comment) && comment.nature === "request" ? "remark" : comment.nature;
    void desk.add({
      ...on,
      kind,
      nature,
      body: kind === "stamp" ? body.slice(0, 40) : body,
      replacement: edit ? comment.replacement : "",
      commentId: comment.id,
      criterionId,
      points: comment.points,
    });
  }

  function placed(place: Place, what?: { kind?: "stamp" | "ink"; strokes?: Stroke[] }) {
    if (what?.kind === "ink")
      return void desk.add({ kind: "ink", start: 0, end: 0, place, strokes: what.strokes });
    if (what?.kind === "stamp" && tool.kind === "stamp")
      return void desk.add({ kind: tool.stamp, start: 0, end: 0, place, body: tool.text });
    composeAt(place);
  }

  function step(kind: WordStep) {
    if (comparing) return;
    if (writingRef.current && picked?.on !== "page") {
      const next = stepWord(text, picked?.on === "text" ? picked : null, kind);
      if (!next) return;
      writingRef.current.focus({ preventScroll: true });
      selectRange(writingRef.current, next);
      return setPicked({ on: "text", ...next, quote: text.slice(next.start, next.end) });
    }
    const all = [...(sheetRef.current?.querySelectorAll<HTMLElement>("[data-words]") ?? [])];
    const onPage =
      picked?.on === "page"
        ? all.find(
            (w) =>
              w.closest<HTMLElement>("[data-page]")?.dataset.page === String(picked.page) &&
              w.closest<HTMLElement>("[data-item]")?.dataset.item === picked.itemId,
          )
        : all.find((w) => w.getBoundingClientRect().bottom > 150 && textOfPage(w) !== "");
    if (!onPage) return;
    const next = stepWord(textOfPage(onPage), picked?.on === "page" ? picked.words : null, kind);
    const found = next && pickOn(onPage, next);
    if (!found) return;
    selectOnPage(onPage, next);
    setPicked(found);
  }

  function stepMark(by: 1 | -1) {
    const marks = [...(sheetRef.current?.querySelectorAll<HTMLElement>("[data-mark]") ?? [])]
      .map((m) => m.dataset.mark!)
      .filter((id, n, all) => all.indexOf(id) === n);
    const index = chosen ? marks.indexOf(chosen) : by > 0 ? -1 : marks.length;
    const next = marks[Math.min(marks.length - 1, Math.max(0, index + by))];
    if (!next) return desk.setProblem("There are no marks on this piece yet.");
    setChosen(next);
    sheetRef.current?.querySelector(`[data-mark="${next}"]`)?.scrollIntoView({ block: "nearest" });
  }

  // A note half written when the tab was closed is opened again where it stood.
  const pieceId = piece?.id;
  const versionId = piece?.versionId;
  useEffect(() => {
    if (!pieceId || !versionId) return;
    let gone = false;
    void kept<Composing>(`note ${pieceId} ${versionId}`).then(async (found) => {
      if (!found) return;
      const spoken = found.value.speak && (await leftRecordings(`note ${pieceId}`)).length > 0;
      // What was recorded is offered; nothing is recorded that nobody asked for.
      if (!gone && (spoken || found.value.begin.trim() !== ""))
        setComposing((now) => now ?? { ...found.value, speak: false });
    });
    return () => {
      gone = true;
    };
  }, [pieceId, versionId]);
  const typed = (now: Composing) => void keep(`note ${pieceId} ${versionId}`, now, 0);
  const composingDone = () => {
    setComposing(null);
    void release(`note ${pieceId} ${versionId}`);
  };

  /** Nothing selected, nothing begun: for the next piece. */
  function clear() {
    setPicked(null);
    setComposing(null);
    setChosen(null);
  }
  return {
    text,
    picked,
    setPicked,
    words,
    composing,
    typed,
    composingDone,
    chosen,
    setChosen,
    compose,
    composeAt,
    speak,
    put,
    rehang,
    take,
    placed,
    step,
    stepMark,
    clear,
  };
}
