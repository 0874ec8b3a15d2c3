"use client";

import Link from "next/link";
import { useState } from "react";
import { planPaste, readPasted } from "@/core/ledger/changes";
import { planBringIn } from "@/core/ledger/bringIn";
import { isOneCell } from "@/core/ledger/rect";
import { columnFor } from "@/core/ledger/sideBySide";
import type { LedgerPage, LedgerRow, LedgerWithGrades } from "@/core/views/ledgerViews";
import { sayCount } from "@/core/text/sayCount";
import { Button } from "../kit/Button";
import { FileButton } from "../kit/FileButton";
import { Empty } from "../kit/Notice";
import { usePrinting } from "../kit/usePrinting";
import { CellLine } from "./CellLine";
import { CellNotesDialog, type NotedCell } from "./CellNotesDialog";
import { ColumnShows } from "./ColumnShows";
import { Columns } from "./Columns";
import { Grid } from "./Grid";
import type { LedgerStore } from "./LedgerStore";
import { NewColumn } from "./NewColumn";
import { Pad } from "./Pad";
import { PrintedLedger } from "./PrintedLedger";
import { PasteDialog, type Pasted } from "./PasteDialog";
import { readTableFile } from "./readTableFile";
import { targetsOver, useLedgerHands, useLedgerStore, type LedgerHands } from "./useLedger";
import { Rows } from "./Rows";
import { useRows } from "./useRows";

/** The Ledger of a section: typed in as a spreadsheet is, kept cell by cell, and the grade worked out beside. */
export function Ledger({ view }: { view: LedgerPage }) {
  const store = useLedgerStore(view);
  const shown = useRows(store, view);
  const { rows, order, query } = shown;
  const hands = useLedgerHands(store, view, rows);
  const [adding, setAdding] = useState(false);
  const [pasted, setPasted] = useState<Pasted | null>(null);
  const [wanted, setWanted] = useState<string | null>(null);
  const [noting, setNoting] = useState<NotedCell | null>(null);
  const added = wanted === null ? -1 : view.columns.findIndex((c) => c.handOutId === wanted);
  if (added >= 0) {
    // The column that was just made has arrived: one goes on there.
    setWanted(null);
    hands.go({ row: 0, column: added + 1 });
  }

  function paste(text: string): void {
    const read = readPasted(text);
    const planned = planPaste(read.rows, hands.rect, hands.extent, hands.targetAt);
    const plain = !read.tooMany && planned.misfits.length === 0;
    if (plain && isOneCell(hands.rect) && planned.changes.length <= 1) store.apply(planned.changes);
    else setPasted({ ...planned, tooMany: read.tooMany, file: null });
  }
  /** A file is of the whole Ledger, whatever rows are shown just now. */
  async function bring(file: File): Promise<void> {
    try {
      const table = await readTableFile(file);
      const targetAt = targetsOver(store, view, view.rows);
      const { strangers, unknownWork, ...planned } = planBringIn(table, {
        ...{ view, rows: view.rows, targetAt },
      });
      setPasted({ ...planned, file: { name: file.name, strangers, unknownWork } });
    } catch (error) {
      store.say((error as Error).message);
    }
  }
  function note(): void {
    const target = hands.targetAt(hands.at);
    if ("refuses" in target) return store.say(target.refuses);
    const { title } = view.columns[hands.at.column - 1]!;
    setNoting({ pieceId: target.pieceId, student: rows[hands.at.row]!.student, title });
  }
  const printing = usePrinting();
  const nothing = sayNothing(view, rows, query);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Rows view={view} rows={shown} column={hands.at.column - 1} />
        {view.may.handOut && !view.parts ? (
          <Button small aria-expanded={adding} onClick={() => setAdding(!adding)}>
            + Column for work off the screen
          </Button>
        ) : null}
        <Columns view={view} />
        {view.parts ? null : (
          <FileButton small accept=".csv,.tsv,.txt,.xlsx" onFile={(file) => void bring(file)}>
            Bring a table back
          </FileButton>
        )}
        <Drafts view={view} store={store} hands={hands} />
        <p className="ml-auto text-sm text-ember" role="status" data-said>
          {hands.state.said}
        </p>
      </div>
      {adding ? (
        <NewColumn
          view={view}
          onMade={(id) => {
            setAdding(false);
            setWanted(id);
          }}
        />
      ) : null}
      {nothing ? (
        <Empty title={nothing} />
      ) : (
        <>
          <CellLine {...{ store, view, hands }} />
          <Pad store={store} hands={hands} mayExcept={view.may.except} onNote={note} />
          <Grid
            {...{ view, hands, store, order }}
            onSort={shown.sort}
            onPaste={paste}
            onNote={note}
          />
          {printing ? <PrintedLedger {...{ view, hands }} /> : null}
        </>
      )}
      <CellNotesDialog
        cell={noting}
        onNoted={(noted) => noting && store.noted(noting.pieceId, noted)}
        onClose={() => setNoting(null)}
      />
      <PasteDialog
        pasted={pasted}
        view={view}
        rows={pasted?.file ? view.rows : rows}
        onClose={() => setPasted(null)}
        onPaste={() => {
          store.apply(pasted!.changes);
          setPasted(null);
        }}
      />
    </div>
  );
}

/** Why there is no grid; null: there is one. */
function sayNothing(
  view: LedgerWithGrades,
  rows: readonly LedgerRow[],
  query: string,
): string | null {
  if (view.columns.length === 0) return "Nothing has been handed out to this section yet";
  if (rows.length > 0) return null;
  if (query) return `No student shown here is called “${query}”`;
  return view.rows.length > 0 ? "No student here has that" : "Nobody is in this section";
}

/** Scores that are typed and not handed back, and the way to hand them back. */
function Drafts({
  view,
  store,
  hands,
}: {
  view: LedgerWithGrades;
  store: LedgerStore;
  hands: LedgerHands;
}) {
  const at = hands.rows[hands.at.row];
  const merged = view.columns[hands.at.column - 1];
  if (!at || !merged || !view.may.handBack) return null;
  const column = columnFor(merged, at);
  if (column.onPaper && column.shows.when !== "by hand")
    return <ColumnShows key={column.handOutId} column={column} today={view.today} />;
  const drafts = view.rows.filter((row) => {
    if (row.section?.id !== at.section?.id) return false;
    const id = row.cells[hands.at.column - 1]?.pieceId;
    return id ? store.at(id)?.cell.draft : false;
  }).length;
  return (
    <>
      {column.onPaper ? (
        <ColumnShows key={column.handOutId} column={column} today={view.today} />
      ) : null}
      {drafts === 0 ? null : (
        <Link
          href={`/hand-back?handOut=${column.handOutId}`}
          prefetch={false}
          className="inline-flex min-h-6 items-center"
        >
          Hand back {column.title}
          {at.section ? `, ${at.section.name}` : ""}: {sayCount(drafts, "draft")}
        </Link>
      )}
    </>
  );
}
