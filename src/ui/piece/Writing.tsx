"use client";

import { useEffect, useRef, useState } from "react";
import { contract } from "@/core/api/contract";
import { compareTexts } from "@/core/text/compare";
import { countWords, plainText } from "@/core/text/plainText";
import type { RichDoc } from "@/core/text/richDoc";
import type { AnsweredMark, PieceView, Receipt } from "@/core/views/views";
import { call, Problem, sayProblem } from "../client";
import { keep, kept, release } from "../device";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { classes } from "../kit/classes";
import { Compared } from "../text/Compared";
import { Editor, useWritingEditor } from "./Editor";
import { MarginOfPiece } from "./MarginOfPiece";
import { acceptTransaction, marksKey } from "./markPlugin";
import { HowItWent } from "./HowItWent";
import { useAnswers, type SetView } from "./useAnswers";
import { useSaving, type OtherCopy } from "./useSaving";

/** The piece while it can be written: the editor, what came back beside it, and handing in. */
export function Writing({ view, setView, onHandedIn }: { view: PieceView; setView: SetView; onHandedIn: (receipt: Receipt) => void }) {
  const saving = useSaving(view.id, view.work, true);
  const answers = useAnswers(view, setView);
  const [words, setWords] = useState(() => countWords(plainText(view.work.doc).text));
  const [typed, setTyped] = useState(0);
  const [asking, setAsking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [self, setSelf] = useState<{ choice: string | null; words: string }>({ choice: null, words: "" });
  const [chosen, setChosen] = useState<string | null>(null);
  const sheet = useRef<HTMLDivElement>(null);
  const editor = useWritingEditor({
    doc: view.work.doc,
    label: `My work: ${view.title}`,
    marks: view.marks,
    onChange: (doc) => {
      saving.changed(doc);
      setWords(countWords(plainText(doc).text));
      setTyped((n) => n + 1);
    },
  });

  // A copy found on the device takes the place of the server's, in the editor too.
  useEffect(() => {
    if (editor && saving.found) editor.commands.setContent(saving.found, { emitUpdate: false });
  }, [editor, saving.found]);
  // The looks of the marks follow what was answered.
  useEffect(() => {
    if (editor) editor.view.dispatch(editor.state.tr.setMeta(marksKey, view.marks));
  }, [editor, view.marks]);

  /** The text changes at once; if the decision cannot be stored, the change is taken back with it. */
  async function decide(mark: AnsweredMark, decision: "accepted" | "declined" | null) {
    const transaction = decision === "accepted" && editor ? acceptTransaction(editor.state, mark) : null;
    if (transaction) editor?.view.dispatch(transaction);
    const stored = await answers.answer(mark, { request: null, decision });
    if (transaction && !stored) editor?.commands.undo();
  }

  async function handIn() {
    setBusy(true);
    const work = await saving.settled();
    const keyName = `hand-in ${view.id} ${view.receipts.length}`;
    try {
      if (work.stopped) throw new Problem(412, "Choose first which of the two copies to go on with.", null, {}, null);
      // The key outlives the page: handing in again after a crash cannot make two hand-ins.
      const key = (await kept<string>(keyName))?.value ?? crypto.randomUUID();
      await keep(keyName, key, 0);
      const receipt = await call(contract.handIn, { params: { pieceId: view.id }, body: { doc: work.doc, self: view.selfAssessment && (self.choice || self.words.trim()) ? self : null }, revision: work.revision, key });
      await release(keyName);
      saving.handedIn();
      onHandedIn(receipt);
    } catch (error) {
      if (error instanceof Problem && error.status < 500) await release(keyName);
      setProblem(error instanceof Problem ? sayProblem(error) : "There is no connection, so it is not handed in yet. What you wrote is kept on this device; press again when you are back.");
    } finally {
      setBusy(false);
      setAsking(false);
    }
  }

  const open = view.marks.filter((m) => m.request === "open").length;
  return (
    <section aria-label="My work">
      {answers.problem || problem ? (
        <Notice ink="ember" className="mb-4">
          {answers.problem ?? problem}
        </Notice>
      ) : null}
      {saving.other ? (
        <TwoCopies
          mine={editor ? (editor.getJSON() as RichDoc) : view.work.doc}
          theirs={saving.other}
          onChoose={(choice) => {
            const doc = saving.choose(choice);
            editor?.commands.setContent(doc, { emitUpdate: false });
          }}
        />
      ) : null}
      <div className={classes("grid gap-x-8", view.marks.length > 0 && "lg:grid-cols-[minmax(0,42rem)_minmax(15rem,20rem)]")}>
        <div ref={sheet} className="max-w-[42rem] min-w-0" onClick={(event) => setChosen((event.target as HTMLElement).closest<HTMLElement>("[data-mark]")?.dataset.mark ?? null)}>
          <Editor editor={editor}>
            <span className={classes(saving.saving.ink === "ember" ? "font-semibold text-ember" : saving.saving.ink === "moss" ? "text-moss" : "text-soft")} role="status" aria-live="polite" data-saving>
              {saving.saving.words}
            </span>
          </Editor>
        </div>
        {view.marks.length > 0 ? (
          <MarginOfPiece
            sheet={sheet}
            marks={view.marks}
            pieceId={view.id}
            chosen={chosen}
            setChosen={setChosen}
            acts={{ onTick: (m, done) => void answers.answer(m, { request: done ? "done" : "open", decision: null }), onDecide: (m, decision) => void decide(m, decision) }}
            onReply={(m, message) => answers.patch(m.id, (old) => ({ ...old, messages: [...old.messages, message] }))}
            signal={`${typed} ${editor ? "ready" : ""}`}
          />
        ) : null}
      </div>
      <div className="mt-8 flex max-w-[42rem] flex-wrap items-center gap-4 border-t border-line-strong pt-4">
        <Button ink="tide" className="max-sm:min-h-11" disabled={busy} onClick={() => setAsking(true)}>
          {view.receipts.length > 0 ? "Hand in again" : "Hand in"}
        </Button>
        <p className="text-sm text-soft">
          {words} {words === 1 ? "word" : "words"}
          {sayGoal(words, view.wordGoal)}
          {open > 0 ? ` · ${open} ${open === 1 ? "request is" : "requests are"} still open` : ""}
        </p>
      </div>
      <Dialog open={asking} onClose={() => setAsking(false)} title={`Hand in: ${view.title}`}>
        <p>
          {words} {words === 1 ? "word goes" : "words go"} to {view.teacher}
          {view.due.lateness ? `, ${view.due.lateness}` : `, due ${view.due.words}`}.
        </p>
        {open > 0 ? <p className="mt-2 text-ember">▲ {open === 1 ? "One request is" : `${open} requests are`} not ticked yet. You can hand in all the same.</p> : null}
        {view.selfAssessment ? <HowItWent asked={view.selfAssessment} said={self} onSay={setSelf} /> : null}
        <p className="mt-2 text-soft">You get a receipt with the time.</p>
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Not yet</Button>
          <Button ink="tide" disabled={busy} onClick={() => void handIn()}>
            {busy ? "Handing in …" : "Hand in now"}
          </Button>
        </div>
      </Dialog>
    </section>
  );
}

/** How the number of words stands to the goal; a goal is no gate. */
function sayGoal(words: number, { least, most }: PieceView["wordGoal"]): string {
  if (least !== null && words < least) return ` · ${least - words} to the goal of ${least}`;
  if (most !== null && words > most) return ` · ${words - most} over the ${most} asked for`;
  return least !== null || most !== null ? " · ✓ as long as asked for" : "";
}

function TwoCopies({ mine, theirs, onChoose }: { mine: RichDoc; theirs: OtherCopy; onChoose: (choice: "mine" | "theirs") => void }) {
  return (
    <Notice
      ink="ember"
      className="mb-5"
      acts={
        <>
          <Button small onClick={() => onChoose("mine")}>
            Go on with this one
          </Button>
          <Button small onClick={() => onChoose("theirs")}>
            Take the other
          </Button>
        </>
      }
    >
      <p>
        This piece was also changed in another window or on another device{theirs.saved ? ` (saved ${theirs.saved})` : ""}. Nothing is lost. Below is what this copy has more (marked) and what only the other has (struck through).
      </p>
      <div className="mt-3 max-h-72 overflow-auto border border-line bg-paper p-3">
        <Compared comparison={compareTexts(plainText(theirs.doc).text, plainText(mine).text)} />
      </div>
    </Notice>
  );
}
