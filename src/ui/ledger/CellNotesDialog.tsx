"use client";

import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { PrivateNote } from "@/core/views/deskViews";
import type { CellNoted, CellNotes } from "@/core/views/ledgerViews";
import { call, sayProblem } from "../client";
import { TwoDrafts } from "../comments/TwoDrafts";
import { WritingField } from "../comments/WritingField";
import { PrivateNotes } from "../desk/beside/PrivateNotes";
import type { Keeping, KeeperState } from "../keeping/Keeper";
import { useKeeper } from "../keeping/useKeeper";
import { Dialog } from "../kit/Dialog";
import { TypedScores } from "../piece/rounds/TypedScores";
import { useFetched } from "../useFetched";

/** Whose cell it is, and of which work. */
export type NotedCell = { pieceId: string; student: string; title: string };

/** Some paragraphs; what was written longer at the Desk stays as it is. */
const LONGEST_NOTE = 4000;

type Props = { cell: NotedCell; onNoted: (noted: CellNoted | null) => void };

/** What is written beside a cell: to the student, who sees it with the score, and for the section's teachers alone. */
export function CellNotesDialog({
  cell,
  onNoted,
  onClose,
}: Omit<Props, "cell"> & { cell: NotedCell | null; onClose: () => void }) {
  return (
    <Dialog
      open={cell !== null}
      onClose={onClose}
      title={cell ? `${cell.student}: ${cell.title}` : ""}
    >
      {cell ? <Fetched key={cell.pieceId} {...{ cell, onNoted }} /> : null}
    </Dialog>
  );
}

function Fetched(props: Props) {
  const { pieceId } = props.cell;
  const { found, problem } = useFetched(pieceId, () =>
    call(contract.cellNotes, { params: { pieceId } }),
  );
  if (problem)
    return (
      <p role="alert" className="text-ember">
        ▲ {problem}
      </p>
    );
  return found ? (
    <Notes {...props} found={found} />
  ) : (
    <p className="text-soft">Fetching what is written …</p>
  );
}

function Notes({ cell, onNoted, found }: Props & { found: CellNotes }) {
  const { pieceId, student } = cell;
  const [kept, setKept] = useState<PrivateNote[]>(found.kept);
  const { keeper, state } = useKeeper(() => keepingOf(pieceId, found.note), {
    ...{ value: found.note, revision: found.revision },
  });
  function tell(note: string, notes: readonly PrivateNote[]): void {
    const own = notes.filter(({ about }) => about === "piece").length;
    onNoted(note === "" && own === 0 ? null : { toStudent: note !== "", kept: own });
  }
  return (
    <>
      {state.theirs ? (
        <TwoDrafts
          mine={state.value}
          theirs={state.theirs.value}
          onChoose={(which) => keeper.choose(which)}
        />
      ) : null}
      <WritingField
        label="To the student, with the score"
        rows={4}
        value={state.value}
        maxLength={Math.max(LONGEST_NOTE, found.note.length)}
        onChange={(text) => {
          keeper.change(() => text);
          tell(text, kept);
        }}
      />
      <p role="status" className="min-h-6 text-sm text-soft" data-note-saving>
        {sayStage(state)}
      </p>
      <h3 className="label mb-2 mt-4">private</h3>
      <PrivateNotes
        piece={{ ...{ id: pieceId, privateNotes: kept, anonymous: false }, called: student }}
        onNotes={(notes) => {
          setKept(notes);
          tell(state.value, notes);
        }}
      />
      <TypedScores scores={found.typedScores} />
    </>
  );
}

const STAGES: Readonly<Record<KeeperState<string>["stage"], string>> = {
  saved: "",
  changed: "Saving …",
  sending: "Saving …",
  waiting: "No connection: it is kept on this device and goes by itself",
  refused: "",
  conflict: "",
};

function sayStage({ stage, sentAt, problem }: KeeperState<string>): string {
  if (stage === "refused") return `▲ Not saved: ${sayProblem(problem)}`;
  return stage === "saved" && sentAt ? "Saved; the student sees it with the score" : STAGES[stage];
}

/** A note is held against the note that was read, and not against a revision, which a typed score counts up too. */
function keepingOf(pieceId: string, first: string): Keeping<string, { revision: number }> {
  let was = first;
  return {
    key: `cell note ${pieceId}`,
    pauseMs: 700,
    isSame: (a, b) => a === b,
    async send(note) {
      const answer = await call(contract.saveCellNote, {
        params: { pieceId },
        body: { was, note },
      });
      was = note;
      return answer;
    },
    theirs({ theirs }) {
      const { note, revision } = theirs as { note: string; revision: number };
      was = note;
      return { value: note, revision };
    },
  };
}
