"use client";

import Link from "next/link";
import { useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { MOST_LOOKED_AT } from "@/core/handingBack/outcome";
import { fold } from "@/core/text/finding";
import { sayCount } from "@/core/text/sayCount";
import { sayState } from "@/core/views/states";
import type { LookedAt } from "@/core/views/handBackViews";
import type { TickLine } from "@/core/views/overviewViews";
import { call } from "../client";
import { useBatch } from "../handingBack/useBatch";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Moon } from "../kit/Moon";
import { Notice } from "../kit/Notice";
import { useChoosing } from "../kit/useChoosing";
import { useAct } from "../useAct";

/** What waits, piece by piece: ticked off here where a word is enough, else read at the Desk. */
export function TickList({ lines }: { lines: readonly TickLine[] }) {
  const { act, busy, problem } = useAct();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [words, setWords] = useState("Looked at.");
  const [query, setQuery] = useState("");
  const [done, setDone] = useState<LookedAt | null>(null);
  const key = useRef<string | null>(null);
  const wanted = fold(query.trim());
  const shown = lines.filter((line) =>
    fold(`${line.student} ${line.handOut} ${line.section}`).includes(wanted),
  );
  const canTick = shown.filter(isPlain).map(({ pieceId }) => pieceId);
  const chosen = lines.filter((line) => isPlain(line) && ticked.has(line.pieceId));
  const allTicked = chosen.length > 0 && chosen.length === Math.min(canTick.length, MOST_LOOKED_AT);
  const turn = useChoosing(canTick, ticked, (ids, on) => {
    key.current = null;
    const next = new Set(ticked);
    for (const id of ids) if (on) next.add(id); else next.delete(id); // prettier-ignore
    setTicked(next);
  });
  async function mark(): Promise<void> {
    key.current ??= crypto.randomUUID();
    const pieceIds = chosen.slice(0, MOST_LOOKED_AT).map(({ pieceId }) => pieceId);
    const answer = await act(() =>
      call(contract.markLookedAt, { body: { pieceIds, words }, key: key.current! }),
    );
    if (!answer) return;
    key.current = null;
    setTicked(new Set());
    setDone(answer);
  }
  return (
    <>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      {done ? <Going key={done.batch.id} done={done} /> : null}
      <form
        className="top-0 z-10 mt-3 sm:sticky flex flex-wrap items-end gap-x-4 gap-y-2 border-b border-line-strong bg-paper py-2"
        onSubmit={(event) => {
          event.preventDefault();
          void mark();
        }}
      >
        <div className="w-48">
          <TextField
            label="Find"
            type="search"
            value={query}
            maxLength={60}
            onChange={(event) => setQuery(event.target.value)}
          />
        </div>
        <div className="w-64">
          <TextField
            label="A word to each"
            value={words}
            maxLength={200}
            onChange={(event) => {
              key.current = null;
              setWords(event.target.value);
            }}
          />
        </div>
        <Button
          type="submit"
          ink="tide"
          disabled={busy || chosen.length === 0 || words.trim() === ""}
        >
          Mark {sayCount(chosen.length, "piece")} as looked at
        </Button>
        <Button
          disabled={canTick.length === 0}
          onClick={() => {
            key.current = null;
            setTicked(new Set(allTicked ? [] : canTick.slice(0, MOST_LOOKED_AT)));
          }}
        >
          {allTicked ? "Tick none" : "Tick all shown"}
        </Button>
      </form>
      {shown.length === 0 ? <p className="mt-3 text-soft">None that waits is called so.</p> : null}
      <ul aria-label="What waits, piece by piece">
        {shown.map((line) => (
          <Line
            key={line.pieceId}
            line={line}
            ticked={ticked.has(line.pieceId)}
            onTick={(stretch) => turn(line.pieceId, stretch)}
          />
        ))}
      </ul>
    </>
  );
}

/** In, and nothing is drafted on it: a word can be enough. */
const isPlain = ({ isIn, drafted }: TickLine): boolean => isIn && !drafted;

function Line({
  line,
  ticked,
  onTick,
}: {
  line: TickLine;
  ticked: boolean;
  onTick: (stretch: boolean) => void;
}) {
  const plain = isPlain(line);
  return (
    <li className="flex flex-wrap items-center gap-x-4 border-b border-line py-0.5">
      <label className="flex min-h-8 w-60 items-center gap-3 max-sm:min-h-11 max-sm:w-full">
        <input
          type="checkbox"
          className="size-5 accent-tide"
          checked={plain && ticked}
          disabled={!plain}
          onChange={(event) => onTick((event.nativeEvent as MouseEvent).shiftKey)}
        />
        <Moon moon={line.moon} named={false} size={18} />
        <span className="truncate">{line.student}</span>
      </label>
      <Link
        href={`/desk?pile=all&handOut=${line.handOutId}&piece=${line.pieceId}`}
        prefetch={false}
        className="inline-flex min-h-6 min-w-0 flex-1 items-center font-serif max-sm:min-h-11"
      >
        <span className="truncate">{line.handOut}</span>
      </Link>
      <span className="w-20 text-sm text-soft">{line.section}</span>
      <span className="w-[23rem] max-w-full text-sm text-soft">{sayLine(line)}</span>
    </li>
  );
}

const sayLine = ({ moon, came, drafted, asks }: TickLine): string =>
  [
    came ? `${sayState(moon)}, came ${came}` : sayState(moon),
    drafted ? "feedback begun" : "",
    asks ? "a question" : "",
  ]
    .filter(Boolean)
    .join(" · ");

/** What was just marked, as long as it can be called back; then that it went. */
function Going({ done }: { done: LookedAt }) {
  const { batch, left, problem, callBack } = useBatch(done.batch);
  const count = sayCount(batch.pieceIds.length, "piece");
  const waits = batch.state === "waiting";
  const rest = done.left > 0 ? ` ${sayCount(done.left, "piece was", "pieces were")} left.` : "";
  const words = {
    waiting: `${count} will go back as looked at${left === null ? " in a moment" : ` in ${left} s`}. Nobody has been told yet.`,
    "called back": "Called back: the word stays as a draft on each.",
  }[batch.state as string];
  return (
    <Notice
      ink={waits ? "tide" : "moss"}
      className="mt-3"
      acts={
        waits ? (
          <Button small onClick={() => void callBack()}>
            Call it back
          </Button>
        ) : undefined
      }
    >
      {words ?? `${count} went back as looked at.`}
      {rest}
      {problem ? <span className="block text-ember">{problem}</span> : null}
    </Notice>
  );
}
