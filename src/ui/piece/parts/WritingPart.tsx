"use client";

import type { Editor as TiptapEditor } from "@tiptap/core";
import { useCallback, useEffect, useRef, useState, type RefObject } from "react";
import { countWords, plainText, toOffset } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { AnsweredMark, PieceView } from "@/core/views/views";
import { ItemShown } from "../../items/ItemShown";
import { FilesHere } from "../../text/FileHere";
import { TransferLines } from "../../transfers/TransferLines";
import { isOnFile } from "../../marks/answered";
import { classes } from "../../kit/classes";
import type { Task } from "@/core/rounds/checklist";
import { Checklist } from "../rounds/Checklist";
import { Editor, useWritingEditor } from "../writing/Editor";
import type { AboutWords } from "../../looks/AskLook";
import { MarginOfPiece } from "../MarginOfPiece";
import type { Gap } from "../../text/useUnderWords";
import { gapsKey } from "../writing/gapPlugin";
import { marksKey, whyNotHere } from "../writing/markPlugin";
import { LookTools, lookClass, useLook } from "../writing/look";
import type { Items } from "./useItems";
import { useAccepting } from "../writing/useAccepting";
import type { useAnswers } from "../useAnswers";
import { useLongUndo } from "../writing/useLongUndo";
import type { Saving } from "../useSaving";

type Props = {
  view: PieceView;
  partId: string;
  /** Files of the piece: some stand in the text. */ items: Items;
  first: RichDoc;
  /** A document that takes the place of what is written. */ instead: RichDoc | null;
  saving: Saving;
  answers: ReturnType<typeof useAnswers>;
  /** What there is to do in this round, and which of it one is at. */
  tasks: readonly Task[];
  chosen: string | null;
  setChosen: (id: string | null) => void;
  onChange: (doc: RichDoc) => void;
  /** Filled in with what tells the words that are selected. */
  selectedRef: RefObject<() => AboutWords>;
};

/** The text to write, with what came back beside it. */
export function WritingPart(props: Props) {
  const { view, partId, items, first, instead, saving, answers } = props;
  const { tasks, chosen, setChosen, onChange, selectedRef } = props;
  const drawFile = useFilesHere(items);
  const [typed, setTyped] = useState(0);
  const [look, setLook] = useLook();
  const sheet = useRef<HTMLDivElement>(null);
  // Marks that stand on a document's words, behind those of the writing, have no place in the editor.
  const length = plainText(first).text.length;
  const marks = view.marks.filter((m) => !isOnFile(m));
  const inText = marks.map((m): AnsweredMark =>
    m.at && m.at.end > length ? { ...m, at: null } : m,
  );
  const editor = useWritingEditor({
    doc: first,
    label: `My work: ${view.title}`,
    marks: inText,
    pictures: true,
    files: true,
    onChange: (doc) => {
      onChange(doc);
      setTyped((n) => n + 1);
    },
  });
  const history = useLongUndo(editor, view.id);

  useEffect(() => {
    selectedRef.current = () => editor && selectedWords(editor);
  }, [editor, selectedRef]);
  // A copy found on the device takes the place of the server's, in the editor too.
  useEffect(() => {
    if (editor && instead) editor.commands.setContent(instead, { emitUpdate: false });
  }, [editor, instead]);
  // The looks of the marks follow what was answered.
  useEffect(() => {
    if (editor) editor.view.dispatch(editor.state.tr.setMeta(marksKey, { marks: view.marks }));
  }, [editor, view.marks]);

  const setGaps = useCallback(
    (gaps: readonly Gap[]) => {
      if (editor && !editor.isDestroyed)
        editor.view.dispatch(editor.state.tr.setMeta(gapsKey, gaps).setMeta("addToHistory", false));
    },
    [editor],
  );
  const decide = useAccepting(editor, (mark, decision) =>
    answers.answer(mark, { request: null, decision }),
  );

  // One after the other: each changes the text that the next is looked for in.
  const decideAll = async (decision: "accepted" | "declined") => {
    for (const { mark, kind, over } of tasks)
      if (kind === "edit" && !over && editor && !isOnFile(mark)) {
        const can = decision === "declined" || whyNotHere(editor.state, mark) === null;
        if (can) await decide(mark, decision);
      }
  };

  return (
    <>
      <Checklist
        tasks={tasks}
        chosen={chosen}
        acts={{ onChoose: setChosen, onDecideAll: (decision) => void decideAll(decision) }}
      />
      <div
        className={classes(
          "relative grid gap-x-8",
          marks.length > 0 && "lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]",
        )}
      >
        <div
          ref={sheet}
          className={classes("max-w-[42rem] min-w-0", lookClass(look))}
          onClick={(event) =>
            setChosen(
              (event.target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark ??
                null,
            )
          }
        >
          <FilesHere value={drawFile}>
            <Editor
              editor={editor}
              pictures={{ pieceId: view.id }}
              files={{ pieceId: view.id, partId, items }}
              history={history}
              meanwhile={first}
              tools={<LookTools look={look} setLook={setLook} />}
            >
              <span className={INK[saving.ink]} role="status" aria-live="polite" data-saving>
                {saving.words}
              </span>
            </Editor>
          </FilesHere>
        </div>
        {marks.length > 0 ? (
          <MarginOfPiece
            sheet={sheet}
            marks={marks}
            pieceId={view.id}
            chosen={chosen}
            setChosen={setChosen}
            acts={{
              onTick: (m, done) =>
                void answers.answer(m, { request: done ? "done" : "open", decision: null }),
              onDecide: (m, decision) => void decide(m, decision),
              whyNot: (m) => (editor ? whyNotHere(editor.state, m) : null),
            }}
            onReply={(m, message) =>
              answers.patch(m.id, (old) => ({ ...old, messages: [...old.messages, message] }))
            }
            setGaps={setGaps}
            signal={`${typed} ${look} ${chosen} ${editor ? "ready" : ""}`}
          />
        ) : null}
      </div>
    </>
  );
}

/** A file in the text: on its way, or there to be heard and seen. */
function useFilesHere(items: Items) {
  const { list, stop } = items.transfers;
  const all = items.items;
  return useCallback(
    (id: string) => {
      const item = all.find((one) => one.id === id);
      if (item) return <ItemShown item={item} />;
      const onItsWay = list.filter((one) => one.id === id);
      return onItsWay.length > 0 ? (
        <TransferLines list={onItsWay} onStop={(one) => void stop(one)} />
      ) : null;
    },
    [all, list, stop],
  );
}

/** The words that are selected in the writing, by their offsets in its plain text; null: none. */
function selectedWords(editor: TiptapEditor): AboutWords {
  const { from, to } = editor.state.selection;
  if (from === to) return null;
  const plain = plainText(editor.getJSON() as RichDoc);
  const range = { start: toOffset(plain, from), end: toOffset(plain, to) };
  return range.end > range.start ? { range, text: plain.text.slice(range.start, range.end) } : null;
}

/** How the number of words stands to the goal; a goal is no gate. */
export function sayGoal(doc: RichDoc, goal: PieceView["wordGoal"]): string {
  const words = countWords(plainText(doc).text);
  return `${words} ${words === 1 ? "word" : "words"}${sayDistance(words, goal)}`;
}

function sayDistance(words: number, { least, most }: PieceView["wordGoal"]): string {
  if (least !== null && words < least) return ` · ${least - words} to the goal of ${least}`;
  if (most !== null && words > most) return ` · ${words - most} over the ${most} asked for`;
  return least !== null || most !== null ? " · ✓ as long as asked for" : "";
}

const INK: Readonly<Record<Saving["ink"], string>> = {
  ember: "font-semibold text-ember",
  moss: "text-moss",
  soft: "text-soft",
};
