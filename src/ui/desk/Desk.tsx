"use client";

import { QueryClient, QueryClientProvider, useQueryClient } from "@tanstack/react-query";
import Link from "next/link";
import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { fillPlaceholders } from "@/core/comments/placeholders";
import type { Range } from "@/core/text/selectors";
import { plainText } from "@/core/text/plainText";
import { stepWord } from "@/core/text/wordSteps";
import type { CommentView, DeskPiece, QueueItem } from "@/core/views/views";
import { sayState } from "@/core/views/states";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Moon } from "../kit/Moon";
import { Notice } from "../kit/Notice";
import { selectRange } from "../text/selection";
import { Thread } from "../piece/Thread";
import { Checkpoints } from "./Checkpoints";
import { Claim } from "./Claim";
import type { Composing } from "./Composer";
import { DeskParts, PartsLine } from "./DeskParts";
import { DeskSheet } from "./DeskSheet";
import { actOf, type DeskAct } from "./keys";
import { KeysCard } from "./KeysCard";
import { QueueStrip } from "./QueueStrip";
import { Tray } from "./Tray";
import { deskKey, fetchDesk, useDeskPiece } from "./useDeskPiece";

type Props = { queue: QueueItem[]; first: DeskPiece; bank: CommentView[]; title: string; back: { href: string; words: string } };

export function Desk(props: Props) {
  const [client] = useState(() => {
    const made = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });
    made.setQueryData(deskKey(props.first.id), props.first);
    return made;
  });
  return (
    <QueryClientProvider client={client}>
      <DeskWithQueue {...props} />
    </QueryClientProvider>
  );
}

function DeskWithQueue({ queue: given, first, bank, title, back }: Props) {
  const client = useQueryClient();
  // What the strip shows follows what was done here since it was fetched.
  const queue = given.map((entry) => {
    const known = client.getQueryData<DeskPiece>(deskKey(entry.pieceId));
    return known ? { ...entry, moon: known.moon, drafted: known.moon.state === "handed_in" && (known.revision > 0 || known.marks.length > 0) } : entry;
  });
  const [current, setCurrent] = useState(() => Math.max(0, given.findIndex((item) => item.pieceId === first.id)));
  const item = queue[current]!;
  const desk = useDeskPiece(item.pieceId);
  const { piece } = desk;
  const sheetRef = useRef<HTMLDivElement>(null);
  const overall = useRef<HTMLTextAreaElement>(null);
  const score = useRef<HTMLInputElement>(null);
  const setScore = useRef<(score: string) => void>(() => {});
  const [selection, setSelection] = useState<Range | null>(null);
  const [composing, setComposing] = useState<Composing | null>(null);
  const [comparing, setComparing] = useState(false);
  const [revising, setRevising] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [done, setDone] = useState<{ pieceId: string; words: string } | null>(null);
  const pressHandBack = useRef<(() => void) | null>(null);

  const go = useCallback(
    (index: number) => {
      const next = Math.min(given.length - 1, Math.max(0, index));
      setCurrent(next);
      setSelection(null);
      setComposing(null);
      setComparing(false);
      const url = new URL(window.location.href);
      url.searchParams.set("piece", given[next]!.pieceId);
      window.history.replaceState(null, "", url);
    },
    [given],
  );

  // The neighbours are loaded ahead, so that going on is instant.
  useEffect(() => {
    for (const near of [given[current + 1], given[current - 1]]) {
      if (near) void client.prefetchQuery({ queryKey: deskKey(near.pieceId), queryFn: () => fetchDesk(near.pieceId), staleTime: 30_000 });
    }
  }, [client, current, given]);

  const waitingAfter = (index: number) => {
    const waits = (entry: QueueItem) => entry.moon.state === "handed_in" && !entry.drafted;
    const later = queue.findIndex((entry, n) => n > index && waits(entry));
    return later !== -1 ? later : queue.findIndex((entry, n) => n !== index && waits(entry));
  };

  async function handBack(outcome: "final" | "revise", due: string | null, flush: () => Promise<boolean>): Promise<boolean> {
    if (!piece || !(await flush())) return false;
    const answer = await desk.attempt(() => call(contract.handBack, { params: { pieceId: piece.id }, body: { outcome, due } }));
    if (!answer) return false;
    setDone({ pieceId: piece.id, words: outcome === "final" ? `Handed back to ${piece.student}.` : `Handed back to ${piece.student} to revise.` });
    await desk.reload();
    const next = waitingAfter(current);
    if (next !== -1) go(next);
    return true;
  }

  async function takeFeedbackBack(pieceId: string) {
    const answer = await desk.attempt(() => call(contract.takeFeedbackBack, { params: { pieceId } }));
    if (!answer) return;
    setDone(null);
    await client.invalidateQueries({ queryKey: deskKey(pieceId) });
    const index = queue.findIndex((entry) => entry.pieceId === pieceId);
    if (index !== -1) go(index);
  }

  const text = piece?.doc ? plainText(piece.doc).text : "";
  const words = selection && selection.end > selection.start ? selection : null;

  function compose(kind: Composing["kind"], nature: "remark" | "request", begin: string) {
    if (!selection || (kind !== "insert" && !words)) return desk.setProblem("Select the words first, with the mouse or with → and Shift+→.");
    const at = kind === "insert" ? { start: selection.end, end: selection.end } : selection;
    setComparing(false);
    setComposing({ kind, nature, ...at, quote: text.slice(at.start, at.end), begin });
  }
  function put(kind: "delete" | "tick" | "cross") {
    if (!words) return desk.setProblem("Select the words first, with the mouse or with → and Shift+→.");
    void desk.add({ kind, nature: "remark", ...words, body: "", replacement: "", commentId: null }, text.slice(words.start, words.end));
  }
  function favourite(comment: CommentView) {
    if (!words || !piece) return;
    const body = fillPlaceholders(comment.text, { name: piece.called, title: piece.title });
    void desk.add({ kind: "note", nature: comment.nature, ...words, body, replacement: "", commentId: comment.id }, text.slice(words.start, words.end));
  }
  function step(kind: Parameters<typeof stepWord>[2]) {
    const next = stepWord(text, selection, kind);
    if (!next || !sheetRef.current || comparing) return;
    sheetRef.current.focus({ preventScroll: true });
    selectRange(sheetRef.current, next);
    setSelection(next);
  }

  const acts: Record<DeskAct, () => void> = {
    next: () => go(current + 1),
    previous: () => go(current - 1),
    unread: () => {
      const next = waitingAfter(current);
      if (next !== -1) go(next);
      else desk.setProblem("Nothing else waits in this queue.");
    },
    word: () => step("next"),
    wordBack: () => step("previous"),
    longer: () => step("longer"),
    shorter: () => step("shorter"),
    note: () => compose("note", "remark", ""),
    bank: () => compose("note", "remark", ";"),
    request: () => compose("note", "request", ""),
    replace: () => compose("replace", "remark", ""),
    insert: () => compose("insert", "remark", ""),
    delete: () => put("delete"),
    tick: () => put("tick"),
    cross: () => put("cross"),
    overall: () => overall.current?.focus(),
    score: () => score.current?.focus(),
    compare: () => piece?.comparison && setComparing((on) => !on),
    handBack: () => pressHandBack.current?.(),
    revise: () => piece?.mayHandBack && piece.versionId && piece.moon.state !== "reworking" && setRevising(true),
    undo: () => void desk.undo().then((undone) => undone || desk.setProblem("There is nothing left to undo on this piece.")),
    keys: () => setKeysOpen(true),
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const digit = /^[1-9]$/.test(event.key) && !event.ctrlKey && !event.metaKey && !event.altKey;
      const typing = (event.target as HTMLElement | null)?.closest("input, textarea, select, [role=dialog]");
      if (digit && !typing) {
        const comment = bank.find((entry) => entry.favourite === Number(event.key));
        if (comment && words) favourite(comment);
        return;
      }
      const act = actOf(event);
      if (!act) return;
      event.preventDefault();
      acts[act]();
    };
    document.addEventListener("keydown", onKey);
    return () => document.removeEventListener("keydown", onKey);
  });

  /** Back to the words after a note was written, so that the next one can follow. */
  function composed() {
    setComposing(null);
    requestAnimationFrame(() => {
      sheetRef.current?.focus({ preventScroll: true });
      if (sheetRef.current && selection) selectRange(sheetRef.current, selection);
    });
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line px-4 py-1.5 text-sm sm:px-6">
        <Link href={back.href} className="text-tide">
          ← {back.words}
        </Link>
        <span className="text-soft">{title}</span>
        <span className="ml-auto flex gap-1">
          <Button small onClick={acts.previous} disabled={current === 0}>
            ← previous <kbd>p</kbd>
          </Button>
          <Button small onClick={acts.next} disabled={current === queue.length - 1}>
            next <kbd>n</kbd> →
          </Button>
          <Button small onClick={acts.unread}>
            next that waits <kbd>u</kbd>
          </Button>
          <Button small ink="quiet" onClick={acts.keys}>
            keys <kbd>?</kbd>
          </Button>
        </span>
      </div>
      <div className="flex min-h-0 flex-1 max-lg:flex-col">
        <QueueStrip queue={queue} current={current} onGo={go} />
        <div className="relative min-w-0 flex-1 overflow-y-auto px-4 py-5 sm:px-8" data-scroll>
          {done ? (
            <Notice ink={done.words.includes("revise") ? "plum" : "moss"} className="mb-4" acts={<Button small onClick={() => void takeFeedbackBack(done.pieceId)}>Take it back</Button>}>
              {done.words}
            </Notice>
          ) : null}
          {desk.problem ? (
            <Notice ink="ember" className="mb-4" acts={<Button small onClick={() => desk.setProblem(null)}>Close</Button>}>
              {desk.problem}
            </Notice>
          ) : null}
          {piece ? (
            <>
              <PieceHead piece={piece} onChanged={() => void desk.reload()} />
              <Checkpoints piece={piece} onSent={(message) => desk.patch((old) => ({ ...old, thread: [...old.thread, message] }))} />
              <DeskSheet key={piece.id} desk={desk} piece={piece} bank={bank} sheetRef={sheetRef} selection={selection} onSelect={setSelection} composing={composing} onComposed={composed} comparing={comparing} onCompare={() => setComparing((on) => !on)} />
              <DeskParts piece={piece} onScore={piece.points === null ? null : (points) => setScore.current(points)} />
              <div className="mt-8 max-w-2xl">
                <Thread pieceId={piece.id} messages={piece.thread} heading={`Thread with ${piece.called}`} onSent={(message) => desk.patch((old) => ({ ...old, thread: [...old.thread, message] }))} />
              </div>
            </>
          ) : desk.failed ? (
            <Notice ink="ember" acts={<Button small onClick={() => void desk.reload()}>Try again</Button>}>
              {desk.failed}
            </Notice>
          ) : (
            <p className="py-12 text-soft" role="status">
              Fetching {item.student}’s piece …
            </p>
          )}
        </div>
      </div>
      {piece ? (
        <Tray
          key={`${piece.id} ${piece.round}`}
          piece={piece}
          bank={bank}
          refs={{ overall, score, setScore }}
          hasSelection={words !== null}
          revising={revising}
          setRevising={setRevising}
          patch={desk.patch}
          onFavourite={favourite}
          onHandBack={handBack}
          pressRef={pressHandBack}
        />
      ) : null}
      <KeysCard open={keysOpen} onClose={() => setKeysOpen(false)} />
    </div>
  );
}

/** @example "412 words, 3 files" */
const sayWork = ({ words, items }: DeskPiece) => [words > 0 || items.length === 0 ? `${words} words` : "", items.length > 0 ? `${items.length} ${items.length === 1 ? "file" : "files"}` : ""].filter(Boolean).join(", ");

function PieceHead({ piece, onChanged }: { piece: DeskPiece; onChanged: () => void }) {
  return (
    <header className="mb-5 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <Moon moon={piece.moon} size={26} named={false} />
      <h1 className="text-2xl!">{piece.student}</h1>
      <p className="text-soft">
        <em className="font-serif">{piece.title}</em> · {piece.section} · {sayState(piece.moon)}
      </p>
      <p className="ml-auto text-sm text-soft">
        {piece.handedIn ? (
          <>
            handed in {piece.handedIn.words},{" "}
            <span className={piece.handedIn.late ? "font-semibold text-ember" : undefined}>
              {piece.handedIn.late ? "◥ " : ""}
              {piece.handedIn.lateness}
            </span>{" "}
            · {sayWork(piece)}
            {piece.versionCount > 1 ? ` · version ${piece.versionCount}` : ""}
          </>
        ) : (
          `due ${piece.due}`
        )}
      </p>
      <Claim piece={piece} onDone={onChanged} />
      <PartsLine piece={piece} />
      {piece.self || piece.copies.length > 0 ? (
        <p className="w-full text-sm">
          {piece.self ? <span className="mr-5">How it went: {piece.self}</span> : null}
          {piece.copies.map((copy) => (
            <a key={copy.materialId} href={`/api/uploads/${copy.uploadId}`} className="mr-4">
              {copy.title}
              <span className="text-soft"> ({copy.when ? `their copy, changed ${copy.when}` : "their copy, unchanged"})</span>
            </a>
          ))}
        </p>
      ) : null}
    </header>
  );
}
