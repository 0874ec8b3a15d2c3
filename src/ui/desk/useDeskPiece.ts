"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import type { MarkKind, Nature } from "@/core/marks/mark";
import type { DeskPiece, DraftMark } from "@/core/views/views";
import { call, sayProblem } from "../client";

export type NewMark = { kind: MarkKind; nature: Nature; start: number; end: number; body: string; replacement: string; commentId: string | null };

export const deskKey = (pieceId: string) => ["desk", pieceId] as const;
export const fetchDesk = (pieceId: string) => call(contract.deskPiece, { params: { pieceId } });

/**
 * One piece on the Desk and everything that can be done to its marks. Changes show at once and are
 * taken back, with a sentence, if the server says no; each can be undone.
 */
export function useDeskPiece(pieceId: string) {
  const client = useQueryClient();
  const query = useQuery({ queryKey: deskKey(pieceId), queryFn: () => fetchDesk(pieceId), staleTime: 30_000 });
  const [problem, setProblem] = useState<string | null>(null);
  const undoing = useRef<{ pieceId: string; undo: () => Promise<unknown> }[]>([]);
  const piece = query.data;

  const patch = useCallback((change: (old: DeskPiece) => DeskPiece) => client.setQueryData<DeskPiece>(deskKey(pieceId), (old) => (old ? change(old) : old)), [client, pieceId]);
  const setMarks = useCallback((change: (marks: DraftMark[]) => DraftMark[]) => patch((old) => ({ ...old, marks: change(old.marks).sort((a, b) => a.start - b.start) })), [patch]);

  /** Runs a change; when it fails the piece is read again as the server has it. */
  const attempt = useCallback(
    async <T>(work: () => Promise<T>): Promise<T | null> => {
      try {
        const done = await work();
        setProblem(null);
        return done;
      } catch (error) {
        setProblem(sayProblem(error));
        await client.invalidateQueries({ queryKey: deskKey(pieceId) });
        return null;
      }
    },
    [client, pieceId],
  );
  // What is under way: an undo waits for it, or it would take back the change before.
  const underWay = useRef<Promise<unknown>>(Promise.resolve());
  const track = <T>(work: Promise<T>): Promise<T> => {
    underWay.current = Promise.allSettled([underWay.current, work]);
    return work;
  };
  const remember = (undo: () => Promise<unknown>) => undoing.current.push({ pieceId, undo });

  const remove = (mark: DraftMark) =>
    attempt(async () => {
      setMarks((marks) => marks.filter((m) => m.id !== mark.id));
      await call(contract.deleteMark, { params: { pieceId, markId: mark.id } });
      if (mark.againOf) await client.invalidateQueries({ queryKey: deskKey(pieceId) });
    });
  const restore = (mark: DraftMark) =>
    attempt(async () => {
      const back = await call(contract.changeMark, { params: { pieceId, markId: mark.id }, body: { nature: mark.nature, body: mark.body, replacement: mark.replacement }, revision: mark.revision });
      setMarks((marks) => [...marks.filter((m) => m.id !== back.id), back]);
    });

  const add = (given: NewMark, quote: string): Promise<DraftMark | null> => track(addNow(given, quote));
  async function addNow(given: NewMark, quote: string): Promise<DraftMark | null> {
    if (!piece?.versionId) return null;
    const id = crypto.randomUUID();
    const versionId = piece.versionId;
    setMarks((marks) => [...marks, { ...given, id, quote, by: "", againOf: null, revision: 0 }]);
    const made = await attempt(() => call(contract.addMark, { params: { pieceId }, body: { ...given, id, versionId } }));
    setMarks((marks) => (made ? marks.map((m) => (m.id === id ? made : m)) : marks.filter((m) => m.id !== id)));
    if (made) remember(() => remove(made));
    return made;
  }

  const change = (mark: DraftMark, given: Pick<DraftMark, "nature" | "body" | "replacement">): Promise<void> => track(changeNow(mark, given));
  async function changeNow(mark: DraftMark, given: Pick<DraftMark, "nature" | "body" | "replacement">): Promise<void> {
    setMarks((marks) => marks.map((m) => (m.id === mark.id ? { ...m, ...given } : m)));
    const changed = await attempt(() => call(contract.changeMark, { params: { pieceId, markId: mark.id }, body: given, revision: mark.revision }));
    if (!changed) return;
    setMarks((marks) => marks.map((m) => (m.id === mark.id ? changed : m)));
    remember(() => restore({ ...mark, revision: changed.revision }));
  }

  const removeMark = (mark: DraftMark): Promise<void> => track(removeNow(mark));
  async function removeNow(mark: DraftMark): Promise<void> {
    await remove(mark);
    remember(() => restore({ ...mark, revision: mark.revision + 1 }));
  }

  const rule = (markId: string, ruling: "settled" | "again" | null): Promise<void> => track(ruleNow(markId, ruling));
  async function ruleNow(markId: string, ruling: "settled" | "again" | null): Promise<void> {
    const before = piece?.earlier.find((m) => m.id === markId)?.ruling ?? null;
    const send = (to: typeof ruling) =>
      attempt(async () => {
        const { earlier, marks } = await call(contract.rule, { params: { pieceId, markId }, body: { ruling: to } });
        patch((old) => ({ ...old, earlier, marks }));
      });
    await send(ruling);
    remember(() => send(before));
  }

  /** Takes the last change back; changes to other pieces are left where they are. */
  async function undo(): Promise<boolean> {
    await underWay.current;
    const last = undoing.current.findLastIndex((step) => step.pieceId === pieceId);
    if (last === -1) return false;
    const [step] = undoing.current.splice(last, 1);
    await step!.undo();
    return true;
  }

  const reload = () => client.invalidateQueries({ queryKey: deskKey(pieceId) });
  return { piece, failed: query.isError ? sayProblem(query.error) : null, problem, setProblem, add, change, removeMark, rule, undo, patch, reload, attempt };
}

export type Desk = ReturnType<typeof useDeskPiece>;
