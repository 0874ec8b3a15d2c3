"use client";

import Link from "next/link";
import { isStopped, type Gap } from "@/core/handingBack/readiness";
import type { BackLine } from "@/core/views/handBackViews";
import { Button } from "../kit/Button";
import { Moon } from "../kit/Moon";
import { useChoosing } from "../kit/useChoosing";
import type { How } from "./HowItGoes";

/** What each draft holds, what becomes of it, and what is not ready about it, by name. */
export function BackLines({
  lines,
  chosen,
  how,
  onChoose,
  onShow,
}: {
  lines: readonly BackLine[];
  chosen: ReadonlySet<string>;
  how: How;
  onChoose: (ids: readonly string[], on: boolean) => void;
  onShow: (line: BackLine) => void;
}) {
  const free = lines.filter(mayGo).map((line) => line.pieceId);
  const all = free.length > 0 && free.every((id) => chosen.has(id));
  const press = useChoosing(free, chosen, onChoose);
  return (
    <div className="overflow-x-auto">
      <table className="sheet-table">
        <thead>
          <tr className="label">
            <th scope="col">
              <input
                type="checkbox"
                className="size-5 accent-tide"
                aria-label="All of them"
                disabled={free.length === 0}
                checked={all}
                onChange={() => onChoose(free, !all)}
              />
            </th>
            <th scope="col">student</th>
            <th scope="col">the draft</th>
            <th scope="col">score</th>
            <th scope="col">goes back</th>
            <th scope="col">not ready</th>
            <th scope="col">
              <span className="sr-only">shown</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.pieceId}>
              <td>
                <input
                  type="checkbox"
                  className="size-5 accent-tide"
                  aria-label={`Hand back ${line.student}`}
                  disabled={!mayGo(line)}
                  checked={chosen.has(line.pieceId)}
                  onClick={(event) => press(line.pieceId, event.shiftKey)}
                  onChange={() => undefined}
                />
              </td>
              <th scope="row" className="border-b border-line! font-normal">
                <span className="flex items-center gap-2">
                  <Moon moon={line.moon} named={false} />
                  <Link
                    href={`/desk?pile=all&handOut=${line.handOutId}&piece=${line.pieceId}&from=hand-back`}
                    prefetch={false}
                  >
                    {line.student}
                  </Link>
                </span>
              </th>
              <td className="text-sm">
                {line.holds || <span className="text-soft">nothing</span>}
                {line.again ? <span className="block text-soft">changed since it went</span> : null}
              </td>
              <td>{line.score ?? ""}</td>
              <td className="text-sm">{sayGoing(line, how)}</td>
              <td className="text-sm">
                <ul>
                  {line.gaps.map((gap) => (
                    <li
                      key={gap.kind}
                      className={gap.kind === "names" ? "text-soft" : "text-ember"}
                    >
                      {signOf(gap)}
                      {gap.words}
                    </li>
                  ))}
                </ul>
              </td>
              <td>
                <Button small ink="quiet" onClick={() => onShow(line)}>
                  Show
                  <span className="sr-only"> what {line.student} will see</span>
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-soft">
        ■ cannot go like this · ▲ can go, if you say so · Shift chooses a stretch
      </p>
    </div>
  );
}

function signOf({ stops, kind }: Gap): string {
  if (stops) return "■ ";
  return kind === "names" ? "" : "▲ ";
}

const mayGo = (line: BackLine): boolean =>
  line.goes === null && line.outcome !== "keep" && !isStopped(line.gaps);

function sayGoing(line: BackLine, how: How): string {
  if (line.goes) return line.goes.words;
  if (line.outcome === "keep") return "only kept";
  const outcome = how.outcome === "draft" ? (line.outcome ?? "final") : how.outcome;
  if (outcome === "final") return "for good";
  return line.dueWords ? `to revise, due ${line.dueWords}` : "to revise";
}
