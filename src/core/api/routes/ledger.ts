import { array, boolean, object, string } from "yup";
import { LONGEST_TYPED, MOST_CELLS } from "../../ledger/cell";
import { PIECE_FLAGS } from "../../pieces/flags";
import type { SavedCells } from "../../views/ledgerViews";
import { endpoint } from "../endpoint";
import { day, named, uuid } from "../fields";

const cellWork = object({
  score: string().defined().max(LONGEST_TYPED),
  flag: string().oneOf(PIECE_FLAGS).nullable().defined(),
  excused: boolean().required(),
})
  .noUnknown()
  .required();

/** The Ledger of a section: as a table, typed in, and columns for work off the screen. */
export const ledgerRoutes = {
  ledgerOut: endpoint<object>()({
    method: "GET",
    path: "/api/sections/{sectionId}/ledger",
    for: "signed-in",
    summary: "The section's Ledger with its grades as a table",
    gives: "text/csv",
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
    }).noUnknown(),
  }),
};
