"use client";

import Link from "next/link";
import { useCallback, useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { sayState } from "@/core/views/states";
import type { CameBackView, PieceView, Receipt } from "@/core/views/views";
import { call, sayProblem } from "../client";
import { keepPage } from "../frame/keepPage";
import { Moon } from "../kit/Moon";
import { plainText } from "@/core/text/plainText";
import { Notice } from "../kit/Notice";
import { ClipsProvider } from "../voice/clips";
import { AloudProvider, AloudSwitch, Hear } from "../voice/Hear";
import { HearAll } from "../voice/HearAll";
import { VoiceNote } from "../voice/VoiceNote";
import { RichText } from "../text/RichText";
import { GivenWith } from "./GivenWith";
import { ToTheClass } from "../sectionNotes/ToTheClass";
import { HandedIn } from "./handingIn/HandedIn";
import { ReceiptCard } from "./handingIn/ReceiptCard";
import { SayingEnded } from "../comments/SayForm";
import { ReturnedFiles } from "./rounds/ReturnedFiles";
import { ScoreChanges } from "./rounds/ScoreChanges";
import { ReachedLevels } from "./rounds/ReachedLevels";
import { TrackOfRounds } from "./rounds/TrackOfRounds";
import { OwnLooksList } from "../looks/OwnLooksList";
import { Thread } from "./Thread";
import { Working } from "./Working";
import { Page } from "../kit/Page";
import { Closed } from "./handingIn/Closed";

/** A student's piece: the task, my work, and what came back, in one sheet. `onlyShown`: nobody has opened it. */
export function Piece({ first, onlyShown }: { first: PieceView; onlyShown?: boolean }) {
  const [view, setView] = useState(first);
  const [receipt, setReceipt] = useState<Receipt | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const receiptRef = useRef<HTMLDivElement>(null);
  // The receipt is what one wants to see now, wherever the page stood.
  useEffect(() => {
    if (!receipt) return;
    receiptRef.current?.focus({ preventScroll: true });
    receiptRef.current?.scrollIntoView({ block: "center" });
  }, [receipt]);
  const reload = useCallback(async () => {
    setView(await call(contract.piece, { params: { pieceId: first.id } }));
    // What is kept for times without a connection should not say that it is still to be handed in.
    await keepPage(`/work/${first.id}`);
  }, [first.id]);

  useEffect(() => {
    if (!onlyShown)
      void call(contract.openPiece, { params: { pieceId: first.id } }).catch(() => {});
  }, [first.id, onlyShown]);

  // The page may be one that was kept for times without a connection: back online it is brought up to date.
  useEffect(() => {
    if (onlyShown) return;
    const online = () => void reload().catch(() => {});
    window.addEventListener("online", online);
    return () => window.removeEventListener("online", online);
  }, [reload, onlyShown]);

  async function takeBack() {
    try {
      await call(contract.takeBack, { params: { pieceId: view.id } });
      setReceipt(null);
      setProblem(null);
      await reload();
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }

  const revising = view.moon.state === "to_revise" || view.moon.state === "reworking";
  const last = view.cameBack.at(-1);
  return (
    <ClipsProvider clips={view.clips} mostSeconds={view.replySeconds}>
      <AloudProvider first={view.aloud}>
        <SayingEnded value={view.takenOff}>
          <Page article width="table" title={view.title} className="pb-24">
            <p className="text-sm">
              <Link href="/work">← My work</Link>
            </p>
            <PieceHead view={view} />
            <AloudSwitch />
            {receipt ? (
              <div ref={receiptRef} tabIndex={-1} className="my-6 outline-offset-8" role="status">
                <Notice ink="moss" className="mb-3 max-w-xl">
                  Handed in. Your teacher has it; here is your receipt.
                </Notice>
                <ReceiptCard receipt={receipt} zone={view.zone} title={view.title} />
              </div>
            ) : null}
            {problem ? (
              <Notice ink="ember" className="my-4">
                {problem}
              </Notice>
            ) : null}
            {view.notices.length > 0 ? (
              <Notice ink="tide" className="my-4 max-w-[42rem]">
                {view.notices.map((notice) => (
                  <p key={notice.when + notice.words}>
                    {notice.words} <span className="text-sm text-soft">{notice.when}</span>
                  </p>
                ))}
              </Notice>
            ) : null}
            {last && view.moon.state !== "handed_in" ? <CameBack back={last} view={view} /> : null}
            <OwnLooksList view={view.looks} />
            {view.openBefore && view.locked === null && view.moon.state !== "handed_in" ? (
              <p className="mt-4 max-w-[42rem] text-soft">
                {view.teacher} can read along before you hand in.
              </p>
            ) : null}
            <details open={!last} className="my-5 max-w-[42rem]">
              <summary className="label cursor-pointer">
                The task{view.points ? ` · ${view.points} points` : ""}
              </summary>
              <div className="mt-2">
                {view.voice ? <VoiceNote clipId={view.voice} small={false} /> : null}
                <RichText doc={view.instructions} />
                <Hear text={plainText(view.instructions).text} words="Hear the task" />
              </div>
              <GivenWith view={view} setView={setView} />
            </details>
            {view.expects === "nothing" ? (
              <Notice ink="tide" className="max-w-xl">
                There is nothing to hand in here: {view.teacher} looks at this on paper or in class,{" "}
                {view.due.words}.
                {view.rubric
                  ? ` What is looked at: ${view.rubric.rubric.criteria.map((c) => c.name).join(", ")}.`
                  : ""}
              </Notice>
            ) : view.mayAskToReopen ? (
              <Closed view={view} onAsked={() => void reload()} />
            ) : view.locked === null ? (
              <Working
                key={`${view.round} ${view.moon.state === "started" || view.moon.state === "not_opened" ? "first" : "again"} ${view.receipts.length}`}
                view={view}
                setView={setView}
                onHandedIn={(r) => {
                  setReceipt(r);
                  void reload();
                }}
              />
            ) : (
              <HandedIn view={view} setView={setView} onTakeBack={() => void takeBack()} />
            )}
            <div className="mt-10 grid max-w-[42rem] gap-8">
              {view.takenOff ? null : (
                <ToTheClass
                  view={view.toClass}
                  onView={(toClass) =>
                    setView((old) => ({ ...old, toClass, clips: [...old.clips, ...toClass.clips] }))
                  }
                  heading="Said to the class"
                />
              )}
              <Thread
                pieceId={view.id}
                messages={view.thread}
                closed={view.threadClosed}
                heading={`Thread with ${view.teacher}`}
                placeholder={revising ? "Ask about what came back" : "Ask something"}
                onSent={(message) =>
                  setView((old) => ({ ...old, thread: [...old.thread, message] }))
                }
              />
              {view.receipts.length > 0 ? (
                <details>
                  <summary className="label cursor-pointer">
                    Receipts ({view.receipts.length})
                  </summary>
                  <div className="mt-3 grid gap-3">
                    {view.receipts.map((r) => (
                      <ReceiptCard key={r.code} receipt={r} zone={view.zone} title={view.title} />
                    ))}
                  </div>
                </details>
              ) : null}
            </div>
          </Page>
        </SayingEnded>
      </AloudProvider>
    </ClipsProvider>
  );
}

function PieceHead({ view }: { view: PieceView }) {
  return (
    <header className="mt-3 border-b border-line-strong pb-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Moon moon={view.moon} size={28} named={false} />
        <h1>{view.title}</h1>
        <p className="text-soft">
          {view.course}, {view.section} · {sayState(view.moon)}
        </p>
      </div>
      <p className="mt-1 flex flex-wrap gap-x-5 text-sm text-soft">
        <span>
          due {view.due.words}
          {view.due.lateness ? (
            <strong className="text-ember"> · ◥ {view.due.lateness}</strong>
          ) : null}
        </span>
        {view.closes ? <span>closes {view.closes}</span> : null}
        {view.promised ? <span>promised back {view.promised}</span> : null}
      </p>
      <TrackOfRounds view={view} />
    </header>
  );
}

function CameBack({ back, view }: { back: CameBackView; view: PieceView }) {
  return (
    <section aria-label="What came back" className="my-6 max-w-[42rem]">
      <h2>
        {back.by} handed this back {back.when}
        {back.outcome === "revise" ? ", to revise" : ""}
      </h2>
      {back.overall ? (
        <p className="mt-2 border-l-2 border-tide pl-4 font-serif text-lg leading-relaxed whitespace-pre-wrap">
          {back.overall}
        </p>
      ) : null}
      <Hear text={back.overall} />
      <HearAll of={view.marks} />
      <p className="mt-2 flex flex-wrap gap-x-5 text-soft">
        {back.score ? <strong className="text-ink">score {back.score}</strong> : null}
        {back.outcome === "revise" ? (
          <a
            href="#to-do"
            className={view.openRequests > 0 ? "font-semibold text-ember" : "text-moss"}
          >
            {view.openRequests > 0
              ? `${view.openRequests} ${view.openRequests === 1 ? "request is" : "requests are"} open ↓`
              : "✓ no open requests"}
          </a>
        ) : null}
        {back.nextDue ? <span>due again {back.nextDue}</span> : null}
      </p>
      {back.asked.words.map((words) => (
        <p key={words} className="mt-1 font-semibold text-plum">
          {words}
        </p>
      ))}
      <ScoreChanges changes={view.scoreChanges.filter((c) => c.round === back.round)} />
      {back.deduction ? (
        <p className="mt-1 text-sm text-soft">How the score came about: {back.deduction}</p>
      ) : null}
      <ReturnedFiles files={back.files} />
      {back.rubric ? <ReachedLevels rubric={back.rubric.whole} picks={back.rubric.picks} /> : null}
    </section>
  );
}
