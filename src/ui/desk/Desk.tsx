"use client";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import type { MessageView } from "@/core/views/views";
import { BankProvider } from "../comments/BankContext";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useLive } from "../kit/useLive";
import { Thread } from "../piece/Thread";
import { ClipsProvider } from "../voice/clips";
import { Beside } from "./beside/Beside";
import { CommentDrag, useTakesComments } from "./CommentDrag";
import { CloseThread } from "./CloseThread";
import { CameUpHere } from "./beside/CameUpHere";
import { Checkpoints } from "./beside/Checkpoints";
import { takeItBack } from "./commands/handBack";
import { KeysCard } from "./commands/KeysCard";
import { MoveNoteDialog } from "./commands/MoveNoteDialog";
import { Palette } from "./commands/Palette";
import { DeskFirst } from "./DeskFirst";
import { GoesSoon } from "./GoesSoon";
import { FlagDialog } from "./FlagDialog";
import { DeskLine } from "./line/DeskLine";
import { DeskProvider, useDesk, usePieceOnDesk } from "./model";
import { MarkTalk } from "./MarkTalk";
import { PieceFacts } from "./PieceFacts";
import { QueueStrip } from "./QueueStrip";
import { DeskSheet, widthsOf } from "./sheet/DeskSheet";
import { SideTools } from "./sheet/SideTools";
import { useDeskKeys } from "./state/useDeskKeys";
import { useFocusKept } from "./state/useFocusKept";
import { useDeskModel, type DeskProps } from "./state/useDeskModel";
import { KeepOffer } from "./tray/KeepOffer";
import { Tray } from "./tray/Tray";

export type { DeskSettings } from "./state/useDeskModel";

/**
 * It is drawn in the browser alone: a pile of hundreds, the work and its margin took the server longer than all that
 * they were read from, for a page that can do nothing before its script is there.
 */
export function Desk(props: DeskProps) {
  const live = useLive();
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } }),
  );
  return (
    <QueryClientProvider client={client}>
      {live ? <DeskHere {...props} /> : <DeskFirst {...props} />}
    </QueryClientProvider>
  );
}

/** How the Desk is laid out: the pile, the work with its margin, what lies beside, the tray. */
function DeskHere(props: DeskProps) {
  const desk = useDeskModel(props);
  useDeskKeys(desk);
  useFocusKept(desk.session);
  const { piece, view } = desk;
  return (
    <DeskProvider value={desk}>
      <BankProvider value={desk.help}>
        <ClipsProvider clips={piece?.clips ?? NO_CLIPS} mostSeconds={piece?.voiceSeconds ?? 60}>
          <CommentDrag>
            <div className="desk-frame">
              <DeskLine />
              <SideTools />
              <Work />
              {view.beside && piece ? <Beside /> : null}
              <KeepOffer />
              {piece ? <Tray key={`${piece.id} ${piece.round}`} /> : null}
              {/* After the work and the tray for the keyboard and for readers, at the left edge for the eye. */}
              <QueueStrip />
              <KeysCard />
              <Palette />
              {piece ? <FlagDialog /> : null}
              {piece ? <MoveNoteDialog /> : null}
            </div>
          </CommentDrag>
        </ClipsProvider>
      </BankProvider>
    </DeskProvider>
  );
}

/** What scrolls: what is to be said, the piece, and its thread. */
function Work() {
  const { session, piece, state, pile } = useDesk();
  useWheelZoom();
  const takesComments = useTakesComments();
  const scroller = useCallback(
    (element: HTMLDivElement | null) => {
      session.port("scroller")(element);
      takesComments(element);
    },
    [session, takesComments],
  );
  return (
    <div
      ref={scroller}
      id="work"
      tabIndex={-1}
      role="region"
      aria-label="The work"
      className="relative min-w-0 px-4 py-2 [grid-area:work] [scroll-padding-block:3rem] focus:outline-none md:overflow-y-auto md:px-4"
      data-scroll
      onScroll={(event) => pile.scrolled(event.currentTarget.scrollTop)}
    >
      <Notices />
      {piece ? <PieceHere /> : null}
      {!piece && state.failed ? (
        <Notice
          ink="ember"
          acts={
            <Button small onClick={() => void session.store.load()}>
              Try again
            </Button>
          }
        >
          {state.failed}
        </Notice>
      ) : null}
      {!piece && !state.failed ? (
        <p className="py-12 text-soft" role="status">
          Fetching {pile.item.student}’s piece …
        </p>
      ) : null}
    </div>
  );
}

function Notices() {
  const desk = useDesk();
  const { session, state, view } = desk;
  const { done } = view;
  return (
    <>
      {done?.batch ? <GoesSoon key={done.batch.id} first={done.batch} /> : null}
      {done && !done.batch ? (
        <Notice
          ink={done.words.includes("revise") ? "plum" : "moss"}
          className="mb-4"
          acts={
            <Button small onClick={() => void takeItBack(desk, done.pieceId)}>
              Take it back
            </Button>
          }
        >
          {done.words}
        </Notice>
      ) : null}
      {state.waits ? (
        <Notice ink="ember" className="mb-4">
          There is no connection just now. What you mark is kept on this device, and goes by itself
          when it is back.
        </Notice>
      ) : null}
      {state.problem ? (
        <Notice
          ink="ember"
          className="mb-4"
          acts={
            <Button small onClick={() => session.store.say(null)}>
              Close
            </Button>
          }
        >
          {state.problem}
        </Notice>
      ) : null}
    </>
  );
}

function PieceHere() {
  const { session, piece, own } = usePieceOnDesk();
  const sent = (message: MessageView) =>
    session.store.patch((old) => ({ ...old, thread: [...old.thread, message] }));
  return (
    <div className="desk-column" style={widthsOf(piece, own.margin)}>
      <PieceFacts />
      <Checkpoints piece={piece} onSent={sent} />
      <DeskSheet key={piece.id} />
      <div className="mt-8 max-w-2xl">
        <MarkTalk />
        <Thread
          pieceId={piece.id}
          messages={piece.thread}
          heading={`Thread with ${piece.called || piece.student}`}
          onSent={sent}
        />
        <CloseThread />
        <CameUpHere handOutId={piece.handOutId} />
      </div>
    </div>
  );
}

/** With a pinch (a trackpad sends it as a wheel with Ctrl) the pages grow, not the whole window. */
function useWheelZoom(): void {
  const { session } = useDesk();
  useEffect(() => {
    const element = session.at("scroller");
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey || !(event.target as HTMLElement).closest("[data-surface]")) return;
      event.preventDefault();
      session.zoomBy(Math.exp(-event.deltaY / 300));
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, [session]);
}

const NO_CLIPS: never[] = [];
