"use client";

import { useEffect, useEffectEvent, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { allItSays, changeableOf, wholeMark } from "@/core/marks/schema";
import type { DraftMark } from "@/core/views/views";
import { call, Problem } from "../../client";
import { begin, end, forget, leave, leftBehind, untilReached, type Waiting } from "./outbox";

/**
 * A change whose answer was lost is sent again, and then finds a newer revision: its own. If the mark says what it was to
 * say, that was the answer.
 */
function arrivedBefore(error: unknown, wanted: DraftMark): DraftMark {
  const theirs =
    error instanceof Problem && error.status === 412 ? (error.theirs as DraftMark | null) : null;
  if (!theirs || allItSays(theirs) !== allItSays(wanted)) throw error;
  return theirs;
}

type Given = {
  pieceId: string;
  /** The piece is here: its marks by their ids. */
  known: ReadonlySet<string> | null;
  /** Runs a change; a refusal is said with the words that were written. */
  attempt: <T>(work: () => Promise<T>, words?: string) => Promise<T | null>;
  setMarks: (change: (marks: DraftMark[]) => DraftMark[]) => void;
  reload: () => Promise<void>;
};

/** Marks made, changed and deleted on the server, each in its turn, and again until the server could be asked. */
export function useMarkWrites({ pieceId, known, attempt, setMarks, reload }: Given) {
  const [waits, setWaits] = useState(0);
  // The newest revision of each mark, deleted ones too: what a change must name, however it came about.
  const revisions = useRef(new Map<string, number>());
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
  const revisionOf = (mark: DraftMark) =>
    Math.max(revisions.current.get(mark.id) ?? 0, mark.revision);
  /** Within the turn: the next one names this revision. */
  const noteRevision = (mark: DraftMark): DraftMark => {
    revisions.current.set(mark.id, mark.revision);
    return mark;
  };
  const settle = (mark: DraftMark) => {
    // Something newer is on its way: what is on the screen is that already.
    if ((turns.current.get(mark.id)?.waiting ?? 0) > 0) return;
    setMarks((marks) =>
      marks.some((m) => m.id === mark.id)
        ? marks.map((m) => (m.id === mark.id ? mark : m))
        : [...marks, mark],
    );
  };
  const send = <T>(given: Waiting, ask: () => Promise<T>): Promise<T | null> => {
    const waiting = begin(pieceId, given);
    const asked = () =>
      inTurn(given.mark.id, () => untilReached(ask, (on) => setWaits((n) => n + (on ? 1 : -1))));
    const words = given.what === "remove" ? "" : given.mark.body || given.mark.replacement;
    return attempt(
      () =>
        asked().then(
          (answer) => {
            end(pieceId, waiting);
            return answer;
          },
          (error: unknown) => {
            // A session that ended, or a server that is unwell, is no answer to what was written.
            (error instanceof Problem && (error.status === 401 || error.status >= 500)
              ? leave
              : end)(pieceId, waiting);
            throw error;
          },
        ),
      words,
    );
  };

  async function add(mark: DraftMark, versionId: string): Promise<DraftMark | null> {
    setMarks((marks) => [...marks.filter((m) => m.id !== mark.id), mark]);
    const made = await send({ what: "add", mark, versionId }, () =>
      call(contract.addMark, {
        params: { pieceId },
        body: { ...wholeMark(mark), commentId: mark.commentId, versionId },
      }).then(noteRevision),
    );
    if (made) settle(made);
    else setMarks((marks) => marks.filter((m) => m.id !== mark.id));
    return made;
  }
  /** Makes a mark say what it says here, whether it is there or deleted. @returns whether it went through */
  async function put(mark: DraftMark): Promise<boolean> {
    setMarks((marks) => marks.map((m) => (m.id === mark.id ? mark : m)));
    const kept = await send({ what: "put", mark, versionId: "" }, () =>
      call(contract.changeMark, {
        params: { pieceId, markId: mark.id },
        body: changeableOf(mark),
        revision: revisionOf(mark),
      })
        .catch((error: unknown) => arrivedBefore(error, mark))
        .then(noteRevision),
    );
    if (kept) settle(kept);
    return kept !== null;
  }
  /** @returns whether it went through */
  async function remove(mark: DraftMark): Promise<boolean> {
    setMarks((marks) => marks.filter((m) => m.id !== mark.id));
    const gone = await send({ what: "remove", mark, versionId: "" }, async () => {
      const answer = await call(contract.deleteMark, { params: { pieceId, markId: mark.id } });
      revisions.current.set(mark.id, revisionOf(mark) + 1);
      return answer;
    });
    if (gone && mark.againOf) await reload();
    return gone !== null;
  }

  // What a tab that was closed without a connection had not sent goes now.
  const goOn = useEffectEvent(({ what, mark, versionId }: Waiting) => {
    if (what === "add") void add(mark, versionId);
    else if (!known?.has(mark.id)) void forget(pieceId, mark.id);
    else void (what === "put" ? put(mark) : remove(mark));
  });
  const ready = known !== null;
  useEffect(() => {
    if (!ready) return;
    let gone = false;
    void leftBehind(pieceId).then((left) => {
      if (!gone) left.forEach(goOn);
    });
    return () => {
      gone = true;
    };
  }, [pieceId, ready]);
  return { add, put, remove, waits };
}
