"use client";

import { QueryClient, QueryClientProvider, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { paceOf, sayPace } from "@/core/desk/pace";
import { isUnread, type QueueOrder } from "@/core/desk/queueOrder";
import { sentenceAround } from "@/core/text/noteText";
import { stepWord } from "@/core/text/wordSteps";
import type { CommentView, DeskPiece, DeskQueue, DraftMark } from "@/core/views/views";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { selectRange } from "../text/selection";
import { BankProvider } from "../comments/BankContext";
import { ClipsProvider } from "../voice/clips";
import { Thread } from "../piece/Thread";
import { Beside } from "./beside/Beside";
import { Checkpoints } from "./beside/Checkpoints";
import { DeskBar, FlagDialog, PieceHead } from "./DeskHead";
import { KeysCard } from "./keys/KeysCard";
import type { DeskAct, OwnKeys } from "./keys/keys";
import { Palette } from "./keys/Palette";
import { QueueStrip } from "./QueueStrip";
import { DeskSheet, kindKey } from "./sheet/DeskSheet";
import { ToolBar } from "./sheet/ToolBar";
import { clampZoom, INK, WORDS, ZOOM_STEP, type Tool } from "./sheet/tools";
import { KeepOffer } from "./tray/KeepOffer";
import { Tray } from "./tray/Tray";
import { useAhead } from "./state/useAhead";
import { useBank } from "./state/useBank";
import { deskKey, useDeskPiece } from "./state/useDeskPiece";
import { useMarking } from "./state/useMarking";
import { useDeskKeys } from "./state/useDeskKeys";
import { useFlags } from "./state/useFlags";
import { useHere } from "./state/useHere";
import { usePages } from "./state/usePages";
import { rememberPiece, useQueue } from "./state/useQueue";
import { useRecordings } from "./state/useRecordings";
import { useKeepPlace, useSetting } from "./state/useSetting";

export type DeskSettings = { keys: OwnKeys; stamps: string[]; order: QueueOrder; scroll: number };
type Props = {
  queue: DeskQueue;
  first: DeskPiece;
  bank: CommentView[];
  title: string;
  pile: string;
  handOut: string | null;
  anonymous: boolean | null;
  across: { href: string; words: string }[];
  back: { href: string; words: string };
  settings: DeskSettings;
};

export function Desk(props: Props) {
  const [client] = useState(() => {
    const made = new QueryClient({
      defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, gcTime: 45_000 } },
    });
    made.setQueryData(deskKey(props.first.id), props.first);
    return made;
  });
  return (
    <QueryClientProvider client={client}>
      <DeskWithQueue {...props} />
    </QueryClientProvider>
  );
}

function DeskWithQueue({
  queue: given,
  first,
  bank: firstBank,
  title,
  pile,
  handOut,
  anonymous,
  across,
  back,
  settings,
}: Props) {
  const client = useQueryClient();
  const [ownKeys, setOwnKeys] = useSetting<OwnKeys>("desk.keys", settings.keys);
  const [stamps, setStamps] = useSetting<string[]>("desk.stamps", settings.stamps);
  const { queue, setAt, current, item, order, setOrder, unreadOnly, setUnreadOnly } = useQueue(
    given,
    first.id,
    settings.order,
  );
  const desk = useDeskPiece(item.pieceId);
  const { piece } = desk;
  useEffect(() => rememberPiece(client, piece), [client, piece]);
  const here = useHere(item.pieceId);
  const keeping = useBank(firstBank, item.handOutId);
  const { suggested } = keeping;
  const keepPlace = useKeepPlace();
  const scroller = useRef<HTMLDivElement>(null);
  const sheetRef = useRef<HTMLDivElement>(null);
  const writingRef = useRef<HTMLDivElement>(null);
  const overall = useRef<HTMLTextAreaElement>(null);
  const score = useRef<HTMLInputElement>(null);
  const dock = useRef<HTMLInputElement>(null);
  const rubric = useRef<(() => void) | null>(null);
  const setScore = useRef<(score: string) => void>(() => {});
  const pressHandBack = useRef<(() => void) | null>(null);
  const pressLeave = useRef<(() => void) | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const [comparing, setComparing] = useState(false);
  const [revising, setRevising] = useState(false);
  const [open, setOpen] = useState<"keys" | "palette" | "flag" | null>(null);
  const [beside, setBeside] = useState(false);
  const [tool, setTool] = useState<Tool>(WORDS);
  const [zoom, setZoom] = useState(1);
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [folded, setFolded] = useState(false);
  const [done, setDone] = useState<{ pieceId: string; words: string } | null>(null);
  const values = useMemo(
    () => ({
      name: piece?.called || undefined,
      title: piece?.title,
      due: piece?.due,
      score: piece?.scoreWords ?? undefined,
    }),
    [piece?.called, piece?.title, piece?.due, piece?.scoreWords],
  );
  const { setFlag, setExcused } = useFlags(desk, item.pieceId);
  const marking = useMarking({
    desk,
    piece,
    values,
    tool,
    comparing,
    onCompose: () => setComparing(false),
    sheetRef,
    writingRef,
  });
  const {
    text,
    picked,
    setPicked,
    words,
    composing,
    typed,
    composingDone,
    chosen,
    setChosen,
    compose,
    composeAt,
    speak,
    put,
    rehang,
    take,
    placed,
    step,
    stepMark,
    clear,
  } = marking;

  const recordings = useRecordings(sheetRef, composeAt, desk.setProblem);
  const pages = usePages(scroller, sheetRef, desk.setProblem);

  const goTo = (pieceId: string) => {
    setAt(pieceId);
    clear();
    setEditing(null);
    setComparing(false);
    setTool(WORDS);
    // The focus stays where keys work, whatever was pressed to get here.
    (document.activeElement as HTMLElement | null)?.blur();
    const url = new URL(window.location.href);
    url.searchParams.set("piece", pieceId);
    window.history.replaceState(null, "", url);
    scroller.current?.scrollTo({ top: 0 });
    keepPlace({ pile, handOut, piece: pieceId, scroll: 0 });
  };
  const go = (index: number) => queue[index] && index !== current && goTo(queue[index].pieceId);

  // Back where one was, also on another machine.
  useEffect(() => {
    keepPlace({ pile, handOut, piece: first.id, scroll: settings.scroll });
    if (settings.scroll > 0)
      requestAnimationFrame(() => scroller.current?.scrollTo({ top: settings.scroll }));
    // Once, on coming back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  useAhead([queue[current + 1]?.pieceId, queue[current - 1]?.pieceId]);

  // Someone else changed this draft: what is there now is fetched, unless something of mine is being written.
  const [drafts, work] = (here?.stamp ?? "").split("/");
  const [knownDrafts, knownWork] = (piece?.stamp ?? "").split("/");
  const theirs = here !== null && (here.lastBy !== null || here.others.length > 0);
  const stale =
    here !== null &&
    piece !== undefined &&
    ((theirs && drafts !== knownDrafts) || work !== knownWork);
  useEffect(() => {
    if (!stale || composing || editing) return;
    void desk.reload();
    // `desk.reload` stays the same for one piece.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [here?.stamp, composing === null, editing === null]);

  const waitingAfter = (index: number) => {
    const later = queue.findIndex((entry, n) => n > index && isUnread(entry));
    return later !== -1 ? later : queue.findIndex((entry, n) => n !== index && isUnread(entry));
  };
  const goOn = () => {
    const next = waitingAfter(current);
    if (next !== -1) go(next);
    return next !== -1;
  };

  async function handBack(
    outcome: "final" | "revise",
    due: string | null,
    flush: () => Promise<boolean>,
  ): Promise<boolean> {
    if (!piece || !(await desk.settled()) || !(await flush())) return false;
    const answer = await desk.attempt(() =>
      call(contract.handBack, { params: { pieceId: piece.id }, body: { outcome, due } }),
    );
    if (!answer) return false;
    await desk.reload();
    const after = client.getQueryData<DeskPiece>(deskKey(piece.id));
    rememberPiece(client, after);
    const name = after?.student ?? piece.student;
    setDone({
      pieceId: piece.id,
      words: outcome === "final" ? `Handed back to ${name}.` : `Handed back to ${name} to revise.`,
    });
    goOn();
    return true;
  }

  async function leave(flush: () => Promise<boolean>): Promise<void> {
    if (!piece || !(await flush())) return;
    setDone(null);
    if (!goOn()) desk.setProblem("Left as a draft. Nothing else waits in this queue.");
  }

  async function takeFeedbackBack(pieceId: string) {
    const answer = await desk.attempt(() =>
      call(contract.takeFeedbackBack, { params: { pieceId } }),
    );
    if (!answer) return;
    setDone(null);
    await client.invalidateQueries({ queryKey: deskKey(pieceId) });
    goTo(pieceId);
  }

  const chosenMark = piece?.marks.find((m) => m.id === chosen);
  const help = useMemo(
    () => ({
      bank: keeping.bank,
      suggested,
      values,
      rubric: piece?.rubric?.rubric ?? null,
      pieceId: item.pieceId,
    }),
    [keeping.bank, suggested, values, piece?.rubric, item.pieceId],
  );
  // What is likely here may come a moment later than the selection: the next key must not wait for it.
  const settled = useDeferredValue(picked);
  const likely = useMemo(
    () =>
      suggested(
        settled === null || settled.quote === ""
          ? ""
          : settled.on === "text"
            ? sentenceAround(text, settled)
            : settled.quote,
      ),
    [suggested, settled, text],
  );

  const acts: Record<DeskAct, () => void> = {
    next: () => go(current + 1),
    previous: () => go(current - 1),
    unread: () => void (goOn() || desk.setProblem("Nothing else waits in this queue.")),
    leave: () => pressLeave.current?.(),
    word: () => step("next"),
    wordBack: () => step("previous"),
    longer: () => step("longer"),
    shorter: () => step("shorter"),
    sentenceNext: () => step("next sentence"),
    sentenceBack: () => step("previous sentence"),
    note: () => compose("note", "remark", ""),
    bank: () => compose("note", "remark", ";"),
    request: () => compose("note", "request", ""),
    praise: () => compose("note", "praise", ""),
    speak,
    whole: () => composeAt({ on: "whole", itemId: null }),
    ...recordings,
    ...pages,
    replace: () => compose("replace", "remark", ""),
    insert: () => compose("insert", "remark", ""),
    delete: () => put("delete"),
    transpose: () => put("transpose"),
    tick: () => put("tick"),
    cross: () => put("cross"),
    question: () => put("question"),
    star: () => put("star"),
    keep: () =>
      void (chosenMark?.kind === "note"
        ? keeping.keepNote(chosenMark)
        : desk.setProblem("Choose a note first, with [ and ].")),
    markNext: () => stepMark(1),
    markBack: () => stepMark(-1),
    change: () => chosenMark && setEditing(chosenMark.id),
    rehang: () => rehang(chosenMark),
    remove: () =>
      void (chosenMark
        ? desk.removeMark(chosenMark)
        : desk.setProblem("Choose a mark first, with [ and ].")),
    toolWords: () => setTool(WORDS),
    toolPin: () => setTool({ kind: "pin" }),
    toolInk: () => setTool(INK),
    toolEraser: () => setTool({ kind: "eraser" }),
    larger: () => setZoom((z) => clampZoom(z * ZOOM_STEP)),
    smaller: () => setZoom((z) => clampZoom(z / ZOOM_STEP)),
    fit: () => setZoom(1),
    wholePage,
    overall: () => overall.current?.focus(),
    dock: () => dock.current?.focus(),
    rubric: () => (rubric.current ? rubric.current() : desk.setProblem("This work has no rubric.")),
    score: () => score.current?.focus(),
    compare: () => piece?.comparison && setComparing((on) => !on),
    handBack: () => pressHandBack.current?.(),
    revise: () =>
      piece?.mayHandBack &&
      piece.versionId &&
      piece.moon.state !== "reworking" &&
      setRevising(true),
    undo: () =>
      void desk
        .undo()
        .then(
          (undone) => undone || desk.setProblem("There is nothing left to undo on this piece."),
        ),
    redo: () =>
      void desk
        .redo()
        .then((redone) => redone || desk.setProblem("There is nothing to do again on this piece.")),
    flag: () => setOpen("flag"),
    beside: () => setBeside((on) => !on),
    palette: () => setOpen("palette"),
    keys: () => setOpen("keys"),
  };
  useDeskKeys(ownKeys, acts, (digit) => {
    const comment = keeping.bank.find((entry) => entry.favourite === digit);
    if (comment && words) take(comment);
  });

  // With a pinch (a trackpad sends it as a wheel with Ctrl) the pages grow, not the whole window.
  useEffect(() => {
    const element = scroller.current;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey || !(event.target as HTMLElement).closest("[data-surface]")) return;
      event.preventDefault();
      setZoom((z) => clampZoom(z * Math.exp(-event.deltaY / 300)));
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, []);

  /** As large as a whole page can be seen at once. */
  function wholePage() {
    const page = sheetRef.current?.querySelector("[data-surface]")?.getBoundingClientRect();
    if (page && scroller.current)
      setZoom((z) => clampZoom((z * (scroller.current!.clientHeight - 70)) / page.height, 0.2));
  }

  /** Back to the words after a note was written, so that the next one can follow. */
  function composed(kept: Promise<DraftMark | null> | null) {
    const on = composing;
    composingDone();
    void kept?.then((mark) => mark && keeping.noticed(mark));
    requestAnimationFrame(() => {
      if (on?.place.on !== "text")
        return sheetRef.current
          ?.querySelector<HTMLElement>(".place-surface")
          ?.focus({ preventScroll: true });
      writingRef.current?.focus({ preventScroll: true });
      if (writingRef.current && picked?.on === "text") selectRange(writingRef.current, picked);
    });
  }

  async function hideNames() {
    const answer = await desk.attempt(() =>
      call(contract.setAnonymous, {
        params: { handOutId: handOut! },
        body: { anonymous: !anonymous },
      }),
    );
    // Names are in every view that was fetched: the page begins anew without (or with) them.
    if (answer) window.location.reload();
  }

  const kinds = useMemo(() => {
    const counts = new Map<string, number>();
    for (const mark of piece?.marks ?? [])
      counts.set(kindKey(mark), (counts.get(kindKey(mark)) ?? 0) + 1);
    return [...counts].sort().map(([key, count]) => ({
      key,
      label: `${count} ${count === 1 && key !== "ink" ? key.replace(/s$/, "") : key}`,
    }));
  }, [piece?.marks]);
  const surfaces =
    piece?.items.some(
      (i) => i.view?.as === "pages" || i.view?.as === "picture" || i.view?.as === "film",
    ) ?? false;
  const pace = sayPace(paceOf(given.seconds), queue.filter(isUnread).length);

  return (
    <BankProvider value={help}>
      <ClipsProvider clips={piece?.clips ?? NO_CLIPS} mostSeconds={piece?.voiceSeconds ?? 60}>
        <div className="flex min-h-0 flex-1 flex-col">
          <DeskBar
            back={back}
            title={title}
            order={order}
            onOrder={setOrder}
            unreadOnly={unreadOnly}
            onUnreadOnly={() => setUnreadOnly((on) => !on)}
            anonymous={anonymous}
            onAnonymous={() => void hideNames()}
            across={across}
            pace={pace}
            first={current === 0}
            last={current === queue.length - 1}
            onAct={(act) => acts[act]()}
          />
          <div className="relative flex min-h-0 flex-1 max-lg:flex-col">
            <QueueStrip queue={queue} current={current} onGo={go} />
            <div
              ref={scroller}
              className="relative min-w-0 flex-1 overflow-y-auto px-4 py-4 sm:px-8"
              data-scroll
              onScroll={(event) =>
                keepPlace({
                  pile,
                  handOut,
                  piece: item.pieceId,
                  scroll: event.currentTarget.scrollTop,
                })
              }
            >
              {done ? (
                <Notice
                  ink={done.words.includes("revise") ? "plum" : "moss"}
                  className="mb-4"
                  acts={
                    <Button small onClick={() => void takeFeedbackBack(done.pieceId)}>
                      Take it back
                    </Button>
                  }
                >
                  {done.words}
                </Notice>
              ) : null}
              {desk.waits > 0 ? (
                <Notice ink="ember" className="mb-4">
                  There is no connection just now. What you mark is kept on this device, and goes by
                  itself when it is back.
                </Notice>
              ) : null}
              {desk.problem ? (
                <Notice
                  ink="ember"
                  className="mb-4"
                  acts={
                    <Button small onClick={() => desk.setProblem(null)}>
                      Close
                    </Button>
                  }
                >
                  {desk.problem}
                </Notice>
              ) : null}
              {piece ? (
                <>
                  <PieceHead
                    piece={piece}
                    here={here}
                    onChanged={() => void desk.reload()}
                    onFlag={() => setOpen("flag")}
                  />
                  <Checkpoints
                    piece={piece}
                    onSent={(message) =>
                      desk.patch((old) => ({ ...old, thread: [...old.thread, message] }))
                    }
                  />
                  <ToolBar
                    tool={tool}
                    onTool={setTool}
                    stamps={stamps}
                    onStamps={setStamps}
                    zoom={zoom}
                    onZoom={setZoom}
                    onWhole={wholePage}
                    kinds={kinds}
                    hidden={hidden}
                    onHide={(kind) =>
                      setHidden(
                        (old) =>
                          new Set(
                            old.has(kind) ? [...old].filter((k) => k !== kind) : [...old, kind],
                          ),
                      )
                    }
                    folded={folded}
                    onFold={() => setFolded((on) => !on)}
                    surfaces={surfaces}
                  />
                  <DeskSheet
                    key={piece.id}
                    desk={desk}
                    piece={piece}
                    help={help}
                    writingRef={writingRef}
                    sheetRef={sheetRef}
                    picked={picked}
                    onPick={setPicked}
                    composing={composing}
                    onComposed={composed}
                    onTyped={typed}
                    onPlace={placed}
                    chosen={chosen}
                    onChoose={setChosen}
                    editing={editing}
                    onEdit={setEditing}
                    onKeep={(mark) => void keeping.keepNote(mark)}
                    tool={tool}
                    zoom={zoom}
                    hidden={hidden}
                    folded={folded}
                    comparing={comparing}
                    onCompare={() => setComparing((on) => !on)}
                    onScore={piece.points === null ? null : (points) => setScore.current(points)}
                    onDropped={(commentId, on) => {
                      const comment = keeping.bank.find((c) => c.id === commentId);
                      if (!comment) return;
                      if ("place" in on) return take(comment, on.place);
                      const word = stepWord(text, { start: on.text, end: on.text }, "longer");
                      const range =
                        stepWord(text, { start: on.text + 1, end: on.text + 1 }, "previous") ??
                        word;
                      const inside =
                        [range, word].find((r) => r && r.start <= on.text && r.end >= on.text) ??
                        range;
                      if (inside && inside.end > inside.start) take(comment, null, inside);
                    }}
                  />
                  <div className="mt-8 max-w-2xl">
                    <Thread
                      pieceId={piece.id}
                      messages={piece.thread}
                      heading={`Thread with ${piece.called || piece.student}`}
                      onSent={(message) =>
                        desk.patch((old) => ({ ...old, thread: [...old.thread, message] }))
                      }
                    />
                  </div>
                </>
              ) : desk.failed ? (
                <Notice
                  ink="ember"
                  acts={
                    <Button small onClick={() => void desk.reload()}>
                      Try again
                    </Button>
                  }
                >
                  {desk.failed}
                </Notice>
              ) : (
                <p className="py-12 text-soft" role="status">
                  Fetching {item.student}’s piece …
                </p>
              )}
            </div>
            {beside && piece ? (
              <Beside
                piece={piece}
                handOutId={item.handOutId}
                onClose={() => setBeside(false)}
                patch={desk.patch}
                onChanged={() => void desk.reload()}
              />
            ) : null}
          </div>
          {keeping.offer ? (
            <div className="px-4 sm:px-6">
              <KeepOffer
                offer={keeping.offer}
                onKeep={(said, nature) => void keeping.keepComment(said, nature)}
                onShorthand={(comment, shorthand) => void keeping.giveShorthand(comment, shorthand)}
                onClose={() => keeping.setOffer(null)}
              />
            </div>
          ) : null}
          {piece ? (
            <Tray
              key={`${piece.id} ${piece.round}`}
              piece={piece}
              help={help}
              suggested={likely}
              refs={{ overall, score, setScore, dock, rubric }}
              hasSelection={words !== null}
              revising={revising}
              setRevising={setRevising}
              patch={desk.patch}
              onTake={(comment) => take(comment)}
              onHandBack={handBack}
              onWord={(word) =>
                void (word === "excused" ? setExcused(true) : setFlag("unfinished"))
              }
              onLeave={(flush) => void leave(flush)}
              pressRef={pressHandBack}
              leaveRef={pressLeave}
            />
          ) : null}
          <KeysCard
            open={open === "keys"}
            onClose={() => setOpen(null)}
            own={ownKeys}
            onSet={setOwnKeys}
          />
          <Palette
            open={open === "palette"}
            onClose={() => setOpen(null)}
            own={ownKeys}
            queue={queue}
            bank={keeping.bank}
            onAct={(act) => acts[act]()}
            onGo={go}
            onComment={(comment) => take(comment)}
          />
          {piece ? (
            <FlagDialog
              piece={piece}
              open={open === "flag"}
              onClose={() => setOpen(null)}
              onFlag={(flag) => void setFlag(flag)}
              onExcuse={(excused) => void setExcused(excused)}
            />
          ) : null}
        </div>
      </ClipsProvider>
    </BankProvider>
  );
}

const NO_CLIPS: never[] = [];
