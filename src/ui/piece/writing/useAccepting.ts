"use client";

import type { Editor } from "@tiptap/core";
import type { DecorationSet } from "@tiptap/pm/view";
import { useCallback, useEffect, useEffectEvent, useRef } from "react";
import type { AnsweredMark } from "@/core/views/views";
import { acceptTransaction, marksKey } from "./markPlugin";

type Doc = Editor["state"]["doc"];
type Accepted = { mark: AnsweredMark; before: Doc; after: Doc; places: DecorationSet };
type Decision = "accepted" | "declined" | null;

/** Makes the change of an edit in the text; null where its words no longer stand. */
function makeChange(editor: Editor, mark: AnsweredMark): Accepted | null {
  const { state } = editor;
  const places = marksKey.getState(state);
  const transaction = acceptTransaction(state, mark);
  if (!transaction || !places) return null;
  editor.view.dispatch(transaction);
  return { mark, before: state.doc, after: editor.state.doc, places };
}

/**
 * Deciding on edits while one writes: what is accepted changes the text at once, and the text and the decision agree
 * from then on. If the decision cannot be stored, the change is taken back; if the change is undone, so is the
 * decision; and done again with it.
 *
 * @param store keeps a decision; false: it could not be
 */
export function useAccepting(
  editor: Editor | null,
  store: (mark: AnsweredMark, decision: Decision) => Promise<boolean>,
) {
  const accepted = useRef<Accepted[]>([]);
  const stepped = useEffectEvent(() => {
    if (!editor) return;
    const { doc } = editor.state;
    for (const one of accepted.current) {
      if (doc.eq(one.before)) {
        void store(one.mark, null);
        editor.view.dispatch(editor.state.tr.setMeta(marksKey, { places: one.places }));
      } else if (doc.eq(one.after)) void store(one.mark, "accepted");
    }
  });
  useEffect(() => {
    if (!editor) return;
    const seen = ({ transaction }: { transaction: { getMeta: (key: string) => unknown } }) => {
      // A step back or forward in the editor's own history.
      if (transaction.getMeta("history$")) setTimeout(stepped);
    };
    editor.on("transaction", seen);
    return () => void editor.off("transaction", seen);
  }, [editor]);

  return useCallback(
    async (mark: AnsweredMark, decision: Decision) => {
      const change = editor && decision === "accepted" ? makeChange(editor, mark) : null;
      if (change) accepted.current = [...accepted.current, change];
      const stored = await store(mark, decision);
      // What was written since is not taken back with it.
      if (change && !stored && editor?.state.doc === change.after) editor.commands.undo();
    },
    [editor, store],
  );
}
