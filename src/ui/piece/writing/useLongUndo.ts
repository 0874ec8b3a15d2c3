"use client";

import type { Editor } from "@tiptap/core";
import { useCallback, useEffect, useRef } from "react";
import { canonicalJson } from "@/core/text/canonical";
import type { RichDoc } from "@/core/text/richDoc";
import { keep, kept } from "../../device";

const MOST = 60;
const PAUSE_MS = 1500;
export const undoKey = (pieceId: string) => `undo ${pieceId}`;

/**
 * Undo that goes on across a reload: states of the writing are kept on the device, one for each pause in typing, and
 * once the editor's own history is used up, undo steps back through them.
 */
export function useLongUndo(editor: Editor | null, pieceId: string) {
  const earlier = useRef<RichDoc[]>([]);
  const later = useRef<RichDoc[]>([]);
  const session = useRef<RichDoc[]>([]);
  const last = useRef(0);
  const before = useRef<RichDoc | null>(null);

  useEffect(() => {
    void kept<RichDoc[]>(undoKey(pieceId)).then((found) => {
      earlier.current = found?.value ?? [];
    });
  }, [pieceId]);

  useEffect(() => {
    if (!editor) return;
    before.current = editor.getJSON() as RichDoc;
    const updated = () => {
      const doc = editor.getJSON() as RichDoc;
      const now = Date.now();
      if (now - last.current > PAUSE_MS && before.current) {
        session.current = [...session.current, before.current].slice(-MOST);
        void keep(undoKey(pieceId), [...earlier.current, ...session.current].slice(-MOST), 0);
      }
      last.current = now;
      before.current = doc;
    };
    editor.on("update", updated);
    return () => void editor.off("update", updated);
  }, [editor, pieceId]);

  const step = useCallback(
    (from: { current: RichDoc[] }, to: { current: RichDoc[] }) => {
      if (!editor) return false;
      const here = editor.getJSON() as RichDoc;
      let next = from.current.pop();
      while (next && canonicalJson(next) === canonicalJson(here)) next = from.current.pop();
      if (!next) return false;
      to.current.push(here);
      editor.chain().setMeta("addToHistory", false).setContent(next, { emitUpdate: true }).run();
      return true;
    },
    [editor],
  );
  const undo = useCallback(
    () => (editor?.can().undo() ? editor.commands.undo() : step(earlier, later)),
    [editor, step],
  );
  const redo = useCallback(
    () => (later.current.length > 0 ? step(later, earlier) : (editor?.commands.redo() ?? false)),
    [editor, step],
  );

  useEffect(() => {
    if (!editor) return;
    const dom = editor.view.dom;
    const listen = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== "z")
        return;
      if (event.shiftKey ? later.current.length > 0 : !editor.can().undo()) {
        event.preventDefault();
        event.stopPropagation();
        if (event.shiftKey) redo();
        else undo();
      }
    };
    dom.addEventListener("keydown", listen, true);
    return () => dom.removeEventListener("keydown", listen, true);
  }, [editor, redo, undo]);

  return { undo, redo };
}
