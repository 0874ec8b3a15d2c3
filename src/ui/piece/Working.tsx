"use client";

import { useEffect, useRef, useState } from "react";
import dynamic from "next/dynamic";
import { contract } from "@/core/api/contract";
import { asksForWriting, holdsFiles, missingParts, sayPart } from "@/core/handouts/parts";
import { isGiven, type Answer } from "@/core/questions/question";
import { isEmptyDoc } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { PieceView, Receipt } from "@/core/views/views";
import type { PartView } from "@/core/views/workViews";
import { isOnFile } from "../marks/answered";
import { call, Problem, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { TransferLines } from "../transfers/TransferLines";
import { AskLook, type AboutWords, type AskedLook } from "../looks/AskLook";
import { HandInDialog } from "./handingIn/HandInDialog";
import { FilesPart } from "./parts/FilesPart";
import { sayGoal } from "./parts/WritingPart";
import { checklist } from "@/core/rounds/checklist";
import { inReadingOrder } from "../marks/drawn";
import { useClips } from "../voice/clips";
import { Checklist } from "./rounds/Checklist";
import { useItems, type Items } from "./parts/useItems";
import { MarkedFiles } from "./MarkedFiles";
import { TwoCopies } from "./TwoCopies";
import { useAnswers, type SetView } from "./useAnswers";
import { useHandIn } from "./handingIn/useHandIn";
import { useSaving, type OtherCopy } from "./useSaving";

// Each kind of work comes with the piece that asks for it.
const WritingPart = dynamic(() => import("./parts/WritingPart").then((m) => m.WritingPart));
const PhotosPart = dynamic(() => import("./parts/PhotosPart").then((m) => m.PhotosPart), {
  ssr: false,
});
const RecordingPart = dynamic(() => import("./parts/RecordingPart").then((m) => m.RecordingPart), {
  ssr: false,
});
const QuestionsPart = dynamic(() => import("./parts/QuestionsPart").then((m) => m.QuestionsPart), {
  ssr: false,
});

/** The piece while it can be worked on: each part that is asked for, showing it on the way, and handing in. */
export function Working({
  view,
  setView,
  onHandedIn,
}: {
  view: PieceView;
  setView: SetView;
  onHandedIn: (receipt: Receipt) => void;
}) {
  const saving = useSaving(view.id, view.work);
  const marks = useAnswers(view, setView);
  const [doc, setDoc] = useState<RichDoc>(view.work.doc);
  const [answers, setAnswers] = useState(view.work.answers);
  const [instead, setInstead] = useState<RichDoc | null>(null);
  const [asking, setAsking] = useState(false);
  const [looking, setLooking] = useState<{ words: AboutWords } | null>(null);
  const selectedRef = useRef<() => AboutWords>(() => null);
  const [chosen, setChosen] = useState<string | null>(null);
  const clips = useClips();
  const tasks = checklist(inReadingOrder(view.marks), (id) => clips.of(id)?.heard ?? true);
  const [problem, setProblem] = useState<string | null>(null);
  const [shown, setShown] = useState<string | null>(null);
  const items = useItems(view.id, view.items, view.room);
  const handing = useHandIn(view, !items.transfers.busy && !marks.waits, {
    onHandedIn: (receipt) => {
      saving.handedIn();
      onHandedIn(receipt);
    },
    onConflict: (theirs) => saving.conflict(theirs),
  });

  // A copy found on the device, or the other of two, takes the place of what is shown.
  const { found } = saving;
  const [seen, setSeen] = useState(found);
  if (found !== seen) {
    setSeen(found);
    if (found) {
      setDoc(found.doc);
      setAnswers(found.answers);
      setInstead(found.doc);
    }
  }
  // What sends files is fetched before it is needed, so that it is there when the connection is not.
  useEffect(() => {
    if (view.parts.some((p) => holdsFiles(p.kind))) void import("tus-js-client").catch(() => {});
  }, [view.parts]);

  function answer(partId: string, questionId: string, given: Answer) {
    const own = { ...answers[partId], [questionId]: given };
    if (!isGiven(given)) delete own[questionId];
    const next = { ...answers, [partId]: own };
    setAnswers(next);
    saving.changed({ answers: next });
  }

  async function checkpoint() {
    setProblem(null);
    const { work, revision, stopped } = await saving.settled();
    if (stopped) return setProblem("Choose first which of the two copies to go on with.");
    try {
      const sent = await call(contract.sendCheckpoint, {
        params: { pieceId: view.id },
        body: work,
        revision,
      });
      saving.storedAs(sent.revision, sent.when);
      setShown(
        `Checkpoint ${sent.number} is with ${view.teacher}, ${sent.when}. This is no hand-in: go on.`,
      );
      setView((old) => ({
        ...old,
        checkpoints: [
          ...old.checkpoints,
          {
            id: String(sent.number),
            number: sent.number,
            round: old.round,
            when: sent.when,
            words: 0,
            look: null,
          },
        ],
      }));
    } catch (error) {
      if (error instanceof Problem && error.status === 412)
        saving.conflict(error.theirs as OtherCopy);
      else setProblem(sayProblem(error));
    }
  }

  /** Shows the work as it is now to someone, with a question. @throws Problem, for the dialog to say */
  async function askForLook(asked: AskedLook) {
    const { work, revision, stopped } = await saving.settled();
    if (stopped) throw new Error("Choose first which of the two copies to go on with.");
    const sent = await call(contract.askForLook, {
      params: { pieceId: view.id },
      body: { ...work, ...asked },
      revision,
      key: crypto.randomUUID(),
    });
    saving.storedAs(sent.revision, sent.when);
    setView((old) => ({ ...old, looks: sent.looks }));
    setLooking(null);
    setShown(`Asked, ${sent.when}. What is said stands here when it comes. Go on writing.`);
  }

  const blank = isEmptyDoc(doc);
  const open = view.marks.filter((m) => m.request === "open").length;
  const counts = new Map(
    view.parts.map((p) => [
      p.id,
      items.of(p.id).length +
        items.transfers.list.filter((t) => t.partId === p.id && t.state !== "refused").length,
    ]),
  );
  const answered = new Map(
    view.parts.flatMap((p) =>
      p.questions
        ? [
            [
              p.id,
              {
                given: p.questions.asked.filter((q) => isGiven(answers[p.id]?.[q.id])).length,
                of: p.questions.asked.length,
              },
            ] as const,
          ]
        : [],
    ),
  );
  const missing = missingParts(view.parts, { blank, items: counts, answered });
  const asked = view.cameBack.at(-1)?.asked.parts ?? [];
  const writes = asksForWriting(view.parts);
  const single = view.parts.length === 1;
  const part = (p: PartView) => {
    switch (p.kind) {
      case "writing":
        return (
          <WritingPart
            view={view}
            partId={p.id}
            items={items}
            first={view.work.doc}
            instead={instead}
            saving={saving.saving}
            answers={marks}
            tasks={tasks}
            chosen={chosen}
            setChosen={setChosen}
            onChange={(next) => {
              setDoc(next);
              saving.changed({ doc: next });
            }}
            selectedRef={selectedRef}
          />
        );
      case "photos":
        return <PhotosPart part={p} items={items} />;
      case "files":
        return <FilesPart part={p} items={items} />;
      case "sound":
      case "film":
        return <RecordingPart part={p} items={items} pieceId={view.id} />;
      case "questions":
        return (
          <QuestionsPart
            part={p}
            pieceId={view.id}
            given={answers[p.id] ?? {}}
            onAnswer={(id, given) => answer(p.id, id, given)}
          />
        );
    }
  };

  if (handing.pending && handing.waiting)
    return (
      <Waiting
        pressedAt={handing.pending.pressedAt}
        zone={view.zone}
        transfers={items.transfers}
        reached={handing.reached}
        onUnpress={() => void handing.unpress()}
      />
    );
  const handIn = view.receipts.length > 0 ? "Hand in again" : "Hand in";
  const wrong = marks.problem ?? problem ?? handing.problem ?? items.problem;
  return (
    <section aria-label="My work">
      {wrong ? (
        <Notice ink="ember" className="mb-4">
          {wrong}
        </Notice>
      ) : null}
      {saving.other ? (
        <TwoCopies
          mine={{ doc, answers }}
          theirs={saving.other}
          parts={view.parts}
          onChoose={(choice) => {
            const work = saving.choose(choice);
            setDoc(work.doc);
            setAnswers(work.answers);
            setInstead(work.doc);
          }}
        />
      ) : null}
      {writes ? null : (
        <Checklist
          tasks={tasks}
          chosen={chosen}
          acts={{ onChoose: setChosen, onDecideAll: null }}
        />
      )}
      <MarkedFiles
        chosen={chosen}
        setChosen={setChosen}
        items={view.markedItems}
        marks={view.marks.filter((m) => isOnFile(m) || !writes)}
        pieceId={view.id}
        acts={{
          onTick: (m, done) =>
            void marks.answer(m, { request: done ? "done" : "open", decision: null }),
          onDecide: (m, decision) => void marks.answer(m, { request: null, decision }),
        }}
        onReply={(m, message) =>
          marks.patch(m.id, (old) => ({ ...old, messages: [...old.messages, message] }))
        }
      />
      <div className="grid gap-8">
        {view.parts.map((p) => (
          <div key={p.id} className="min-w-0" data-part={p.kind}>
            {single && p.kind === "writing" ? null : (
              <h2 className="mb-3 border-b border-line pb-1">
                {sayPart(p).replace(/^./, (c) => c.toUpperCase())}
              </h2>
            )}
            {asked.length > 0 && !asked.includes(p.id) ? (
              <p className="mb-2 text-sm text-soft">
                Not asked for this time: it can stay as it is.
              </p>
            ) : null}
            {part(p)}
          </div>
        ))}
      </div>
      <div className="mt-8 max-w-[42rem] border-t border-line-strong pt-4">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-3">
          <Button
            ink="tide"
            className="max-sm:min-h-11"
            disabled={handing.pending !== null}
            onClick={() => setAsking(true)}
          >
            {handing.pending ? "Handing in …" : handIn}
          </Button>
          <Button
            className="max-sm:min-h-11"
            onClick={() => void checkpoint()}
            title="Your teacher sees it as it is now; you go on"
          >
            Send a checkpoint
          </Button>
          <Button
            className="max-sm:min-h-11"
            onClick={() => setLooking({ words: selectedRef.current() })}
          >
            Ask for a look
          </Button>
          <p className="text-sm text-soft">
            {writes ? sayGoal(doc, view.wordGoal) : ""}
            {open > 0 ? ` · ${open} ${open === 1 ? "request is" : "requests are"} still open` : ""}
          </p>
          {writes ? null : (
            <span
              className={
                saving.saving.ink === "ember"
                  ? "text-sm font-semibold text-ember"
                  : "text-sm text-soft"
              }
              role="status"
              aria-live="polite"
              data-saving
            >
              {saving.saving.words}
            </span>
          )}
        </div>
        {shown ? (
          <Notice ink="moss" className="mt-3">
            {shown}
          </Notice>
        ) : null}
        {view.checkpoints.length > 0 && !shown ? (
          <p className="mt-2 text-sm text-soft">
            Checkpoints: {view.checkpoints.map((c) => `${c.number} (${c.when})`).join(", ")}
          </p>
        ) : null}
      </div>
      {looking ? (
        <AskLook
          teacher={view.teacher}
          classmates={view.looks.classmates}
          words={looking.words}
          onAsk={askForLook}
          onClose={() => setLooking(null)}
        />
      ) : null}
      {asking ? (
        <HandInDialog
          view={view}
          doc={doc}
          items={items.items}
          underWay={items.transfers.list.filter((t) => t.state !== "refused").length}
          answered={answered}
          missing={missing}
          open={view.marks.filter((m) => m.request === "open")}
          onTick={(m) => void marks.answer(m, { request: "done", decision: null })}
          onClose={() => setAsking(false)}
          onHandIn={async (self, changes) => {
            const { work, revision, stopped } = await saving.settled();
            setAsking(false);
            if (stopped) return setProblem("Choose first which of the two copies to go on with.");
            await handing.press(work, { self, changes }, revision);
          }}
        />
      ) : null}
    </section>
  );
}

/** Pressed without a connection (or before the files are through): what is true now, and the way back. */
function Waiting({
  pressedAt,
  zone,
  transfers,
  reached,
  onUnpress,
}: {
  pressedAt: string;
  zone: string;
  transfers: Items["transfers"];
  reached: boolean;
  onUnpress: () => void;
}) {
  const files = transfers.list.filter((t) => t.state !== "refused").length;
  const away = !reached || transfers.list.some((t) => t.state === "no connection");
  const when = new Date(pressedAt).toLocaleTimeString("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
  });
  return (
    <Notice
      ink="ember"
      className="max-w-[42rem]"
      acts={
        <Button small className="max-sm:min-h-11" onClick={onUnpress}>
          Go on working instead
        </Button>
      }
    >
      <p role="status">
        <strong>Not handed in yet.</strong> You pressed “Hand in” at {when} by this device’s clock,
        and it is kept here
        {files > 0
          ? `, with ${files} ${files === 1 ? "file" : "files"} still to be sent`
          : ""}.{" "}
        {away
          ? "There is no connection. It is sent by itself as soon as there is one"
          : "Your files are on their way; it is handed in by itself when they are through"}
        , while this page is open or when you open it again on this device. If that takes a while,
        the receipt shows both times.
      </p>
      <TransferLines list={transfers.list} onStop={(id) => void transfers.stop(id)} />
    </Notice>
  );
}
