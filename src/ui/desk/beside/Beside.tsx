"use client";

import { sayCount } from "@/core/text/sayCount";
import { useState } from "react";
import Link from "next/link";
import { contract } from "@/core/api/contract";
import type { DeskPiece, VersionShown } from "@/core/views/deskViews";
import { call, sayProblem } from "../../client";
import { Button } from "../../kit/Button";
import { classes } from "../../kit/classes";
import { ItemShown } from "../../items/ItemShown";
import { RubricTable } from "../../rubrics/RubricTable";
import { Compared, sayComparison } from "../../text/Compared";
import { RichText } from "../../text/RichText";
import { usePieceOnDesk } from "../model";
import { ComparedFiles } from "../compared/ComparedFiles";
import { Answers } from "../sheet/DeskParts";
import { ClassBeside } from "./ClassBeside";
import { Exchange } from "./Exchange";
import { FilesBack } from "./FilesBack";
import { Rounds } from "./Rounds";
import { PrivateNotes } from "./PrivateNotes";
import { VoiceNote } from "../../voice/VoiceNote";

const PAGES = [
  "task",
  "rubric",
  "files",
  "rounds",
  "versions",
  "before",
  "class",
  "private",
  "marks",
] as const;
type Page = (typeof PAGES)[number];
const WORDS: Readonly<Record<Page, string>> = {
  task: "Task",
  rubric: "Rubric",
  files: "Files back",
  rounds: "Rounds",
  versions: "Versions",
  before: "Earlier work",
  class: "To the class",
  private: "Private notes",
  marks: "Marks in and out",
};

/** Where a page is not always there: whether it is. */
const HAS: Partial<Record<Page, (piece: DeskPiece) => boolean>> = {
  rubric: (piece) => piece.rubric !== null,
  rounds: (piece) => piece.rounds.length > 0 || piece.typedScores.length > 0,
  versions: (piece) => piece.versions.length > 0,
  before: (piece) => piece.otherWork.length > 0,
  marks: (piece) => piece.versionId !== null,
};

/** What lies beside the work: the task, the rubric, other versions, what the student did before, private notes. */
export function Beside() {
  const { session, piece, pile } = usePieceOnDesk();
  const { handOutId } = pile.item;
  const onChanged = () => void session.store.load();
  const [page, setPage] = useState<Page>("task");
  const pages = PAGES.filter((p) => HAS[p]?.(piece) ?? true);
  const open = pages.includes(page) ? page : "task";
  return (
    <aside
      aria-label="Beside the work"
      className="flex min-h-0 w-[26rem] flex-col border-l border-line-strong bg-raised [grid-area:beside] max-xl:fixed max-xl:inset-y-0 max-xl:right-0 max-xl:z-30 max-xl:w-[min(26rem,90vw)] max-xl:shadow-lifted"
    >
      <div className="flex items-start border-b border-line px-2 py-1">
        <div
          className="flex flex-1 flex-wrap items-center gap-x-1"
          role="tablist"
          aria-label="Beside the work"
        >
          {pages.map((p) => (
            <button
              key={p}
              type="button"
              role="tab"
              aria-selected={open === p}
              onClick={() => setPage(p)}
              className={classes(
                "min-h-8 cursor-pointer px-2 text-sm",
                open === p ? "border-b-2 border-tide font-semibold" : "text-soft hover:text-ink",
              )}
            >
              {WORDS[p]}
              {p === "files" && piece.returned.length > 0 ? ` (${piece.returned.length})` : ""}
              {p === "private" && piece.privateNotes.length > 0
                ? ` (${piece.privateNotes.length})`
                : ""}
            </button>
          ))}
        </div>
        <Button
          small
          ink="quiet"
          onClick={() => session.turn("beside")}
          aria-label="Close what lies beside"
        >
          ×
        </Button>
      </div>
      <div
        className="min-h-0 flex-1 overflow-y-auto p-4 text-sm"
        role="tabpanel"
        tabIndex={0}
        aria-label={WORDS[open]}
      >
        {open === "task" ? <Task piece={piece} /> : null}
        {open === "rubric" ? <RubricTable rubric={piece.rubric!.rubric} /> : null}
        {open === "files" ? <FilesBack /> : null}
        {open === "rounds" ? <Rounds /> : null}
        {open === "versions" ? <Versions key={piece.id} piece={piece} /> : null}
        {open === "before" ? <Before piece={piece} /> : null}
        {open === "class" ? <ClassBeside key={handOutId} handOutId={handOutId} /> : null}
        {open === "private" ? (
          <PrivateNotes
            key={piece.id}
            piece={piece}
            onNotes={(privateNotes) => session.store.patch((old) => ({ ...old, privateNotes }))}
          />
        ) : null}
        {open === "marks" ? <Exchange key={piece.id} piece={piece} onBrought={onChanged} /> : null}
      </div>
    </aside>
  );
}

function Task({ piece }: { piece: DeskPiece }) {
  return (
    <>
      <h2 className="mb-2">{piece.title}</h2>
      <VoiceNote clipId={piece.task.voice} />
      <RichText doc={piece.task.instructions} />
      {piece.task.materials.length > 0 ? (
        <ul className="mt-3 border-t border-line pt-2">
          {piece.task.materials.map((m, n) => (
            <li key={n} className="py-1">
              {m.href ? <a href={m.href}>{m.title}</a> : <strong>{m.title}</strong>}
              {m.doc ? <RichText doc={m.doc} /> : null}
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}

/** Earlier hand-ins: each as it was, or what changed from it to the one on the Desk. */
function Versions({ piece }: { piece: DeskPiece }) {
  const [shown, setShown] = useState<VersionShown | null>(null);
  const [comparing, setComparing] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [files, setFiles] = useState(false);
  async function open(versionId: string) {
    try {
      setShown(await call(contract.deskVersion, { params: { pieceId: piece.id, versionId } }));
      setProblem(null);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <>
      {problem ? (
        <p role="alert" className="text-ember">
          ▲ {problem}
        </p>
      ) : null}
      <ul>
        {piece.versions.map((v) => (
          <li key={v.id}>
            <button
              type="button"
              aria-pressed={shown?.id === v.id}
              onClick={() => void open(v.id)}
              className={classes(
                "flex w-full cursor-pointer items-baseline gap-3 border-b border-line py-1.5 text-left hover:bg-sunk",
                shown?.id === v.id && "bg-tide-wash",
              )}
            >
              <span className="font-semibold">version {v.number}</span>
              <span className="text-soft">
                round {v.round}, {v.when}, {sayCount(v.words, "word")}
                {v.id === piece.versionId ? " · on the Desk" : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {shown ? (
        <section aria-label={`Version of round ${shown.round}`} className="mt-3">
          {shown.comparison ? (
            <p className="mb-2 flex flex-wrap items-baseline gap-2">
              <span className="text-soft">
                To the one on the Desk: {sayComparison(shown.comparison)}
              </span>
              <Button small aria-pressed={comparing} onClick={() => setComparing((on) => !on)}>
                {comparing ? "As it was" : "What changed"}
              </Button>
            </p>
          ) : null}
          {comparing && shown.comparison ? (
            <Compared comparison={shown.comparison} doc={piece.doc!} />
          ) : (
            <RichText doc={shown.doc} />
          )}
          {shown.items.length + shown.sheets.length > 0 && shown.id !== piece.versionId ? (
            <Button small onClick={() => setFiles(true)}>
              Beside what is on the Desk
            </Button>
          ) : null}
          {shown.items.map((item) => (
            <ItemShown key={item.id} item={item} />
          ))}
          {shown.sheets.map((sheet) => (
            <Answers key={`${sheet.partId} ${sheet.name}`} sheet={sheet} onScore={null} />
          ))}
          {files ? (
            <ComparedFiles
              before={shown}
              after={piece}
              earlier={`round ${shown.round}`}
              onClose={() => setFiles(false)}
            />
          ) : null}
        </section>
      ) : null}
    </>
  );
}

function Before({ piece }: { piece: DeskPiece }) {
  return (
    <ul>
      {piece.otherWork.map((w) => (
        <li key={w.pieceId} className="border-b border-line py-2">
          <p className="flex items-baseline gap-3">
            <Link href={`/desk?pile=all&piece=${w.pieceId}`} target="_blank" rel="noopener">
              {w.title}
            </Link>
            <span className="ml-auto whitespace-nowrap text-soft">
              {w.score ?? ""} {w.when}
            </span>
          </p>
          {w.overall ? <p className="mt-1 text-soft">{w.overall}</p> : null}
        </li>
      ))}
    </ul>
  );
}
