"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { wholeMark, type GivenMark, type MarkChange } from "@/core/marks/schema";
import type { DeskPiece, DraftMark } from "@/core/views/views";
import { call, sayProblem } from "../../client";
import { anyOnTheWay, withWaiting } from "./outbox";
import { useMarkWrites } from "./useMarkWrites";

/** A mark about to be made: what is left out is nothing. */
export type NewMark = Omit<GivenMark, "id"> & { commentId?: string | null };

export const deskKey = (pieceId: string) => ["desk", pieceId] as const;
export const fetchDesk = (pieceId: string) =>
  call(contract.deskPiece, { params: { pieceId } }).then(withWaiting);

/** So long a hand-back waits for marks that are still on their way. */
const PATIENCE_MS = 8000;

type Step = { pieceId: string; undo: () => Promise<unknown>; redo: () => Promise<unknown> };

/**
 * One piece on the Desk and everything that can be done to its marks. Changes show at once and are
 * taken back, with a sentence, if the server says no; each can be undone and done again, as far back as the
 * session goes.
 */
export function useDeskPiece(pieceId: string) {
  const client = useQueryClient();
  const query = useQuery({
    queryKey: deskKey(pieceId),
    queryFn: () => fetchDesk(pieceId),
    staleTime: 30_000,
  });
  const [problem, setProblem] = useState<string | null>(null);
  const done = useRef<Step[]>([]);
  const undone = useRef<Step[]>([]);
  const piece = query.data;

  const patch = useCallback(
    (change: (old: DeskPiece) => DeskPiece) =>
      client.setQueryData<DeskPiece>(deskKey(pieceId), (old) => (old ? change(old) : old)),
    [client, pieceId],
  );
  const setMarks = useCallback(
    (change: (marks: DraftMark[]) => DraftMark[]) =>
      patch((old) => ({ ...old, marks: change(old.marks).sort((a, b) => a.start - b.start) })),
    [patch],
  );

  /** Runs a change; when it fails the piece is read again as the server has it, and what was written is said with why. */
  const attempt = useCallback(
    async <T>(work: () => Promise<T>, words = ""): Promise<T | null> => {
      try {
        const answer = await work();
        setProblem(null);
        return answer;
      } catch (error) {
        setProblem(words ? `${sayProblem(error)} You wrote: “${words}”` : sayProblem(error));
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
  const reload = useCallback(
    () => client.invalidateQueries({ queryKey: deskKey(pieceId) }),
    [client, pieceId],
  );
  const known = useMemo(() => (piece ? new Set(piece.marks.map((m) => m.id)) : null), [piece]);
  const writes = useMarkWrites({ pieceId, known, attempt, setMarks, reload });
  const { put, remove, waits } = writes;

  const add = (given: NewMark): Promise<DraftMark | null> => track(addNow(given));
  async function addNow(given: NewMark): Promise<DraftMark | null> {
    if (!piece?.versionId) return null;
    const id = crypto.randomUUID();
    const { commentId = null, ...said } = given;
    const made = await writes.add(
      { ...wholeMark({ ...said, id }), commentId, by: "", againOf: null, revision: 0 },
      piece.versionId,
    );
    if (!made) return null;
    remember(
      () => remove(made),
      () => put(made),
    );
    return made;
  }

  const change = (mark: DraftMark, given: MarkChange): Promise<void> =>
    track(changeNow(mark, given));
  async function changeNow(mark: DraftMark, given: MarkChange): Promise<void> {
    const after = { ...mark, ...given };
    if (await put(after))
      remember(
        () => put(mark),
        () => put(after),
      );
  }

  const removeMark = (mark: DraftMark): Promise<void> => track(removeNow(mark));
  async function removeNow(mark: DraftMark): Promise<void> {
    if (await remove(mark))
      remember(
        () => put(mark),
        () => remove(mark),
      );
  }

  const rule = (markId: string, ruling: "settled" | "again" | null): Promise<void> =>
    track(ruleNow(markId, ruling));
  async function ruleNow(markId: string, ruling: "settled" | "again" | null): Promise<void> {
    const before = piece?.earlier.find((m) => m.id === markId)?.ruling ?? null;
    const send = (to: typeof ruling) =>
      attempt(async () => {
        const { earlier, marks } = await call(contract.rule, {
          params: { pieceId, markId },
          body: { ruling: to },
        });
        patch((old) => ({ ...old, earlier, marks }));
      });
    await send(ruling);
    remember(
      () => send(before),
      () => send(ruling),
    );
  }

  /** Takes the last change back, or does the last one taken back again; changes to other pieces are left where they are. */
  async function step(from: typeof done, to: typeof done, way: "undo" | "redo"): Promise<boolean> {
    if (waits > 0)
      return (
        setProblem("There is no connection just now. What you did can be undone when it is back."),
        true
      );
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

  /** Everything done to this piece's marks has reached the server; if it cannot, that is said. */
  async function settled(): Promise<boolean> {
    await Promise.race([
      underWay.current,
      new Promise((resolve) => setTimeout(resolve, PATIENCE_MS)),
    ]);
    if (!anyOnTheWay(pieceId)) return true;
    setProblem(
      "There is no connection just now, so nothing was handed back. Your marks are kept on this device and go by themselves when it is back.",
    );
    return false;
  }

  return {
    piece,
    failed: query.isError ? sayProblem(query.error) : null,
    problem,
    setProblem,
    waits,
    settled,
    add,
    change,
    removeMark,
    rule,
    undo,
    redo,
    patch,
    reload,
    attempt,
  };
}

export type Desk = ReturnType<typeof useDeskPiece>;
