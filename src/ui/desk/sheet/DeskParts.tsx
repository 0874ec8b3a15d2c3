"use client";

import type { AnswerSheet, ItemView } from "@/core/views/workViews";
import type { DeskPiece } from "@/core/views/deskViews";
import { memo } from "react";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { itemOf } from "@/core/marks/place";
import type { PlacedMark } from "../../marks/drawn";
import { MarkedItem, type PlaceActs } from "./MarkedItem";
import type { Tool } from "../../marks/tools";

/** The files of a part that stand below the text; those in it stand where it names them. */
export const filesBelow = (items: readonly ItemView[], partId: string): ItemView[] =>
  items.filter((item) => item.partId === partId && !item.inText);

/** What there is below the text, to go to. */
export function PartsLine({ piece }: { piece: DeskPiece }) {
  const below = piece.parts.flatMap((part) => {
    const files = filesBelow(piece.items, part.id).length;
    const sheet = piece.sheets.find((s) => s.partId === part.id);
    const words = sheet
      ? `${sheet.points} of ${sheet.possible} by the key`
      : `${files} ${files === 1 ? "file" : "files"}`;
    return files > 0 || sheet ? [{ id: part.id, label: part.label, words }] : [];
  });
  if (below.length === 0) return null;
  return (
    <p className="flex flex-wrap">
      <span className="label">in this piece</span>
      {below.map((b) => (
        <a key={b.id} href={`#part-${b.id}`} className="ml-3">
          {b.label} <span className="text-soft">({b.words})</span>
        </a>
      ))}
    </p>
  );
}

/** The files and answers of a piece, part by part, under the text. */
export const DeskParts = memo(function DeskParts({
  piece,
  placed,
  numbers,
  tool,
  chosen,
  zoom,
  acts,
  onScore,
}: {
  piece: DeskPiece;
  placed: readonly PlacedMark[];
  numbers: ReadonlyMap<string, number>;
  tool: Tool;
  chosen: string | null;
  zoom: number;
  acts: PlaceActs;
  onScore: ((points: string) => void) | null;
}) {
  const marksOf = new Map(
    piece.items.map((item) => [item.id, placed.filter((m) => itemOf(m.place) === item.id)]),
  );
  return (
    <>
      {piece.parts.map((part) => {
        const own = filesBelow(piece.items, part.id);
        const sheet = piece.sheets.find((s) => s.partId === part.id);
        if (own.length === 0 && !sheet) return null;
        return (
          <section key={part.id} id={`part-${part.id}`} aria-label={part.label} className="mt-8">
            <h2 className="border-b border-line pb-1">
              {part.label.replace(/^./, (c) => c.toUpperCase())}
            </h2>
            {own.map((item) => (
              <MarkedItem
                key={item.id}
                item={item}
                marks={marksOf.get(item.id) ?? NONE}
                numbers={numbers}
                tool={tool}
                chosen={chosen}
                zoom={zoom}
                acts={acts}
              />
            ))}
            {sheet ? <Answers sheet={sheet} onScore={onScore} /> : null}
          </section>
        );
      })}
    </>
  );
});
const NONE: readonly PlacedMark[] = [];

const STATES: Record<
  AnswerSheet["lines"][number]["state"],
  { sign: string; words: string; ink: string }
> = {
  right: { sign: "✓", words: "same as the key", ink: "text-moss" },
  partly: { sign: "◐", words: "partly", ink: "text-ember" },
  wrong: { sign: "✗", words: "other than the key", ink: "text-ember" },
  "nothing given": { sign: "–", words: "no answer", ink: "text-soft" },
  "for the teacher": { sign: "…", words: "for you to read", ink: "text-tide" },
};

/** Answers beside the key, part by part: same and different told apart by a sign and a word. */
export function Answers({
  sheet,
  onScore,
}: {
  sheet: AnswerSheet;
  onScore: ((points: string) => void) | null;
}) {
  return (
    <div>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4 text-soft">
        <span>
          By the key of “{sheet.name}”: <strong className="text-ink">{sheet.points}</strong> of{" "}
          {sheet.possible}
          {sheet.waiting > 0 ? `, ${sheet.waiting} for you to read` : ""}
        </span>
        {onScore ? (
          <Button small onClick={() => onScore(`${sheet.points}/${sheet.possible}`)}>
            Put {sheet.points}/{sheet.possible} into the score
          </Button>
        ) : null}
      </p>
      <ol className="mt-2">
        {sheet.lines.map((line, n) => {
          const { sign, words, ink } = STATES[line.state];
          return (
            <li key={line.questionId} className="border-t border-line py-2">
              <p className="flex flex-wrap items-baseline gap-x-3">
                <span className="text-soft">{n + 1}.</span>
                <span className="min-w-0 flex-1 whitespace-pre-wrap">{line.text}</span>
                <span className={classes("font-semibold", ink)}>
                  {sign} {words}
                </span>
                <span className="text-sm text-soft">
                  {line.points ?? "?"}/{line.possible}
                  {line.by === "teacher" ? " · your judgement" : ""}
                  {line.tries > 0 ? ` · ${line.tries} ${line.tries === 1 ? "try" : "tries"}` : ""}
                </span>
              </p>
              {line.kind === "free text" ? (
                <p className="mt-1 border-l-2 border-line-strong pl-3 font-serif whitespace-pre-wrap">
                  {line.rows[0]!.given}
                </p>
              ) : (
                <table className="mt-1 w-full max-w-2xl table-fixed text-sm">
                  <thead className="sr-only">
                    <tr>
                      <th scope="col">part</th>
                      <th scope="col">answer</th>
                      <th scope="col">key</th>
                    </tr>
                  </thead>
                  <tbody>
                    {line.rows.map((row, k) => (
                      <tr key={k}>
                        {line.rows.length > 1 || row.label ? (
                          <td className="w-1/3 py-0.5 pr-3 text-soft">{row.label}</td>
                        ) : null}
                        <td className="py-0.5 pr-3">
                          <span
                            aria-hidden="true"
                            className={row.same ? "text-moss" : "text-ember"}
                          >
                            {row.same ? "= " : "≠ "}
                          </span>
                          <span
                            className={
                              row.same
                                ? ""
                                : "underline decoration-ember decoration-wavy underline-offset-4"
                            }
                          >
                            {row.given}
                          </span>
                          <span className="sr-only">
                            {row.same ? " (same as the key)" : " (other than the key)"}
                          </span>
                        </td>
                        <td className="py-0.5 text-soft">{row.same ? "" : `key: ${row.key}`}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
              {line.note ? <p className="text-sm text-ember">{line.note}</p> : null}
            </li>
          );
        })}
      </ol>
    </div>
  );
}
