"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { ON_TEXT } from "@/core/marks/place";
import type { DeskPiece, DraftMark, WholeMark } from "@/core/views/views";
import { call, sayProblem } from "../../client";

/** A mark about to be made: what is left out is nothing. */
export type NewMark = Pick<WholeMark, "kind" | "start" | "end"> & Partial<Pick<WholeMark, "nature" | "body" | "replacement" | "quote" | "place" | "strokes" | "sentence" | "criterionId" | "points" | "clipId">> & { commentId?: string | null };
/** What can be changed of one that is there. */
export type MarkChange = Partial<Pick<WholeMark, "nature" | "body" | "replacement" | "place" | "strokes" | "sentence" | "criterionId" | "points" | "clipId" | "start" | "end" | "quote">>;

export const deskKey = (pieceId: string) => ["desk", pieceId] as const;
export const fetchDesk = (pieceId: string) => call(contract.deskPiece, { params: { pieceId } });

type Step = { pieceId: string; undo: () => Promise<unknown>; redo: () => Promise<unknown> };

/**
 * One piece on the Desk and everything that can be done to its marks. Changes show at once and are
 * taken back, with a sentence, if the server says no; each can be undone and done again, as far back as the
 * session goes.
 */
export function useDeskPiece(pieceId: string) {
  const client = useQueryClient();
  const query = useQuery({ queryKey: deskKey(pieceId), queryFn: () => fetchDesk(pieceId), staleTime: 30_000 });
  const [problem, setProblem] = useState<string | null>(null);
  const done = useRef<Step[]>([]);
  const undone = useRef<Step[]>([]);
  // The newest revision of each mark, deleted ones too: what a change must name, however it came about.
  const revisions = useRef(new Map<string, number>());
  const piece = query.data;

  const patch = useCallback((change: (old: DeskPiece) => DeskPiece) => client.setQueryData<DeskPiece>(deskKey(pieceId), (old) => (old ? change(old) : old)), [client, pieceId]);
  const setMarks = useCallback((change: (marks: DraftMark[]) => DraftMark[]) => patch((old) => ({ ...old, marks: change(old.marks).sort((a, b) => a.start - b.start) })), [patch]);

  /** Runs a change; when it fails the piece is read again as the server has it. */
  const attempt = useCallback(
    async <T>(work: () => Promise<T>): Promise<T | null> => {
      try {
        const answer = await work();
        setProblem(null);
        return answer;
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
  const remember = (undo: Step["undo"], redo: Step["redo"]) => {
    done.current.push({ pieceId, undo, redo });
    undone.current = undone.current.filter((step) => step.pieceId !== pieceId);
  };
  // Changes to one mark go to the server one after the other: each names the revision that the one before it made.
  const turns = useRef(new Map<string, { last: Promise<unknown>; waiting: number }>());
  const inTurn = <T>(markId: string, work: () => Promise<T>): Promise<T> => {
    const turn = turns.current.get(markId) ?? { last: Promise.resolve(), waiting: 0 };
    turn.waiting += 1;
    const mine = turn.last.then(work).finally(() => (turn.waiting -= 1));
    turn.last = mine.catch(() => undefined);
    turns.current.set(markId, turn);
    return mine;
  };
  const settle = (mark: DraftMark) => {
    revisions.current.set(mark.id, mark.revision);
    // Something newer is on its way: what is on the screen is that already.
    if ((turns.current.get(mark.id)?.waiting ?? 0) > 1) return;
    setMarks((marks) => (marks.some((m) => m.id === mark.id) ? marks.map((m) => (m.id === mark.id ? mark : m)) : [...marks, mark]));
  };
  const revisionOf = (mark: DraftMark) => Math.max(revisions.current.get(mark.id) ?? 0, mark.revision);

  /** Both say whether it went through. */
  const remove = async (mark: DraftMark): Promise<boolean> => {
    setMarks((marks) => marks.filter((m) => m.id !== mark.id));
    const gone = await attempt(() =>
      inTurn(mark.id, async () => {
        await call(contract.deleteMark, { params: { pieceId, markId: mark.id } });
        revisions.current.set(mark.id, revisionOf(mark) + 1);
        if (mark.againOf) await client.invalidateQueries({ queryKey: deskKey(pieceId) });
        return true;
      }),
    );
    return gone === true;
  };
  /** Makes a mark say what it says here, whether it is there or deleted. */
  const put = async (mark: DraftMark): Promise<boolean> => {
    const kept = await attempt(() =>
      inTurn(mark.id, async () => {
        const { nature, body, replacement, place, strokes, sentence, criterionId, points, clipId, quote } = mark;
        const range = place.on === "text" ? { start: mark.start, end: mark.end } : {};
        settle(await call(contract.changeMark, { params: { pieceId, markId: mark.id }, body: { nature, body, replacement, place: place.on === "text" ? null : place, strokes, sentence, criterionId, points, clipId, quote, ...range }, revision: revisionOf(mark) }));
        return true;
      }),
    );
    return kept === true;
  };

  const add = (given: NewMark): Promise<DraftMark | null> => track(addNow(given));
  async function addNow(given: NewMark): Promise<DraftMark | null> {
    if (!piece?.versionId) return null;
    const id = crypto.randomUUID();
    const whole = { nature: "remark" as const, body: "", replacement: "", quote: "", place: ON_TEXT, strokes: [], sentence: "", criterionId: null, points: null, clipId: null, commentId: null, ...given };
    setMarks((marks) => [...marks, { ...whole, id, by: "", againOf: null, revision: 0 }]);
    const made = await attempt(() => inTurn(id, () => call(contract.addMark, { params: { pieceId }, body: { ...whole, clipId: whole.clipId ?? undefined, place: whole.place.on === "text" ? null : whole.place, id, versionId: piece.versionId! } })));
    if (!made) {
      setMarks((marks) => marks.filter((m) => m.id !== id));
      return null;
    }
    settle(made);
    remember(() => remove(made), () => put(made));
    return made;
  }

  const change = (mark: DraftMark, given: MarkChange): Promise<void> => track(changeNow(mark, given));
  async function changeNow(mark: DraftMark, given: MarkChange): Promise<void> {
    const after = { ...mark, ...given };
    setMarks((marks) => marks.map((m) => (m.id === mark.id ? after : m)));
    if (await put(after)) remember(() => put(mark), () => put(after));
  }

  const removeMark = (mark: DraftMark): Promise<void> => track(removeNow(mark));
  async function removeNow(mark: DraftMark): Promise<void> {
    if (await remove(mark)) remember(() => put(mark), () => remove(mark));
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
    remember(() => send(before), () => send(ruling));
  }

  /** Takes the last change back, or does the last one taken back again; changes to other pieces are left where they are. */
  async function step(from: typeof done, to: typeof done, way: "undo" | "redo"): Promise<boolean> {
    await underWay.current;
    const last = from.current.findLastIndex((s) => s.pieceId === pieceId);
    if (last === -1) return false;
    const [found] = from.current.splice(last, 1);
    await found![way]();
    to.current.push(found!);
    return true;
  }
  const undo = () => step(done, undone, "undo");
  const redo = () => step(undone, done, "redo");

  const reload = useCallback(() => client.invalidateQueries({ queryKey: deskKey(pieceId) }), [client, pieceId]);
  return { piece, failed: query.isError ? sayProblem(query.error) : null, problem, setProblem, add, change, removeMark, rule, undo, redo, patch, reload, attempt };
}

export type Desk = ReturnType<typeof useDeskPiece>;
