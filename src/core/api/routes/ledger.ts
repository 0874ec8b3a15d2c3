import { array, boolean, number, object, string } from "yup";
import { LONGEST_TYPED, MOST_CELLS } from "../../ledger/cell";
import { GROUPINGS, MOST_COLUMNS, WIDTHS } from "../../ledger/layout";
import { CATEGORY_SHOWS, SHOWS, type Shows } from "../../ledger/shows";
import { PIECE_FLAGS } from "../../pieces/flags";
import type { CellNotes, SavedCells } from "../../views/ledgerViews";
import { endpoint } from "../endpoint";
import { day, named, uuid } from "../fields";

const cellWork = object({
  score: string().defined().max(LONGEST_TYPED),
  flag: string().oneOf(PIECE_FLAGS).nullable().defined(),
  excused: boolean().required(),
})
  .noUnknown()
  .required();

const TERM_QUERY = { term: "by its name; without it the one that is now" };
const term = string().trim().required("Say which term.").max(200);
const reason = string()
  .trim()
  .required("Say why: it stands in the list of changes.")
  .max(1000, "A reason has 1,000 characters at most.");

/** As long as an overall note, which it is. */
const note = string().max(20_000, "A note has 20,000 characters at most.");

/** The Ledger of a section: as a table, typed in, and columns for work off the screen. */
export const ledgerRoutes = {
  ledgerOut: endpoint<object>()({
    method: "GET",
    path: "/api/sections/{sectionId}/ledger",
    for: "signed-in",
    summary: "The section's Ledger with its grades as a table",
    gives: "text/csv",
    query: TERM_QUERY,
  }),
  ledgerWorkbook: endpoint<object>()({
    method: "GET",
    path: "/api/sections/{sectionId}/ledger/workbook",
    for: "signed-in",
    summary: "The section's Ledger with its grades as a workbook (ECMA-376)",
    gives: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    query: TERM_QUERY,
  }),
  ledgerOneRoster: endpoint<object>()({
    method: "GET",
    path: "/api/sections/{sectionId}/ledger/oneroster",
    for: "signed-in",
    summary: "The section's scores as the files of a OneRoster 1.2 package",
    gives: "application/zip",
    query: TERM_QUERY,
  }),
  setLayout: endpoint<{ saved: true }>()({
    method: "PATCH",
    path: "/api/sections/{sectionId}/ledger/layout",
    for: "signed-in",
    summary:
      "Which columns of the section's Ledger I see, in which order and groups, and how rows are sorted; what is left out stays",
    body: object({
      hidden: array().of(uuid.required()).max(MOST_COLUMNS).optional(),
      order: array().of(uuid.required()).max(MOST_COLUMNS).optional(),
      group: string().oneOf(GROUPINGS).optional(),
      sort: object({ by: string().max(36).required(), down: boolean().required() })
        .noUnknown()
        .default(undefined)
        .optional(),
      widths: array()
        .of(
          object({
            id: uuid.required(),
            px: number().integer().min(WIDTHS.least).max(WIDTHS.most).required(),
          }).noUnknown(),
        )
        .max(MOST_COLUMNS)
        .optional(),
    }).noUnknown(),
  }),
  saveCells: endpoint<SavedCells>()({
    method: "POST",
    path: "/api/sections/{sectionId}/ledger/cells",
    for: "signed-in",
    summary: "Type into cells of the section's Ledger: scores (drafts), flags, excused",
    body: object({
      cells: array()
        .of(object({ pieceId: uuid.required(), was: cellWork, now: cellWork }).noUnknown())
        .min(1, "No cell is in here.")
        .max(MOST_CELLS, `${MOST_CELLS} cells at most go at once.`)
        .required(),
      term: string().trim().max(200).nullable(),
    }).noUnknown(),
  }),
  cellNotes: endpoint<CellNotes>()({
    method: "GET",
    path: "/api/pieces/{pieceId}/cell-notes",
    for: "signed-in",
    summary: "What is written beside a cell of the Ledger: to the student, and private",
  }),
  saveCellNote: endpoint<{ revision: number }>()({
    method: "PUT",
    path: "/api/pieces/{pieceId}/cell-notes",
    for: "signed-in",
    summary: "Keep the word to the student beside a cell: the draft's overall note",
    body: object({ was: note.defined(), note: note.defined() }).noUnknown(),
  }),
  freezeTerm: endpoint<{ frozen: number }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/freeze",
    for: "signed-in",
    summary: "Freeze the grades of a term: later scores do not move them",
    body: object({ term }).noUnknown(),
  }),
  openTerm: endpoint<{ opened: true }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/freeze/open",
    for: "signed-in",
    summary: "Open the frozen grades of a term again, for a reason",
    body: object({ term, reason }).noUnknown(),
  }),
  correctGrade: endpoint<{ grade: string | null }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/students/{studentId}/grade",
    for: "signed-in",
    summary: "Take what was scored since into a frozen grade, for a reason",
    once: true,
    body: object({ term, reason }).noUnknown(),
  }),
  setShows: endpoint<{ shows: Shows }>()({
    method: "PUT",
    path: "/api/hand-outs/{handOutId}/shows",
    for: "signed-in",
    summary: "When students see the scores of a column for work off the screen",
    body: object({
      shows: string().oneOf(SHOWS).required(),
      on: day.nullable().defined().default(null),
    }).noUnknown(),
  }),
  addColumn: endpoint<{ handOutId: string }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/ledger/columns",
    for: "signed-in",
    summary: "A column for work off the screen: given to the whole section, nothing is handed in",
    once: true,
    body: object({
      title: named("the work", 200),
      points: string().trim().required("Say how many points it is of.").max(10),
      on: day.required("Say on which day it was, or will be."),
      category: string().trim().max(60).defined(),
      shows: string().oneOf(CATEGORY_SHOWS).nullable().optional(),
    }).noUnknown(),
  }),
};
