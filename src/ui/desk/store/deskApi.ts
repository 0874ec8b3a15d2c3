import { contract } from "@/core/api/contract";
import { allItSays, changeableOf, wholeMark } from "@/core/marks/schema";
import type { DeskPiece, DraftMark, EarlierMark } from "@/core/views/deskViews";
import { call, Problem } from "../../client";
import type { Change, Ruling } from "./changes";

/** What the Desk's store asks of the server. */
export type DeskApi = {
  read: (pieceId: string) => Promise<DeskPiece>;
  add: (pieceId: string, mark: DraftMark, versionId: string) => Promise<DraftMark>;
  put: (pieceId: string, mark: DraftMark, revision: number) => Promise<DraftMark>;
  remove: (pieceId: string, markId: string) => Promise<unknown>;
  rule: (
    pieceId: string,
    markId: string,
    ruling: Ruling,
    likely?: boolean,
  ) => Promise<{ earlier: EarlierMark[]; marks: DraftMark[] }>;
};

export const deskApi: DeskApi = {
  read: (pieceId) => call(contract.deskPiece, { params: { pieceId } }),
  add: (pieceId, mark, versionId) =>
    call(contract.addMark, {
      params: { pieceId },
      body: { ...wholeMark(mark), commentId: mark.commentId, versionId },
    }),
  put: (pieceId, mark, revision) =>
    call(contract.changeMark, {
      params: { pieceId, markId: mark.id },
      body: changeableOf(mark),
      revision,
    }),
  remove: (pieceId, markId) => call(contract.deleteMark, { params: { pieceId, markId } }),
  rule: (pieceId, markId, ruling, likely) =>
    call(contract.rule, { params: { pieceId, markId }, body: { ruling, likely } }),
};

/**
 * A change whose answer was lost is sent again, and then finds a newer revision: its own. If the mark says what it
 * was to say, that was the answer.
 *
 * @throws the error itself when it was someone else's
 */
function arrivedBefore(error: unknown, wanted: DraftMark): DraftMark {
  const theirs =
    error instanceof Problem && error.status === 412 ? (error.theirs as DraftMark | null) : null;
  if (!theirs || allItSays(wholeMark(theirs)) !== allItSays(wanted)) throw error;
  return theirs;
}

/** What the server says to a change: the mark as it has it now, that it is gone, or what a ruling made. */
export type Answered =
  { mark: DraftMark } | { gone: true } | { earlier: EarlierMark[]; marks: DraftMark[] };

/** Asks for one change. @param revision the newest revision of the mark that is known */
export async function ask(
  api: DeskApi,
  pieceId: string,
  change: Change,
  revision: number,
): Promise<Answered> {
  switch (change.what) {
    case "add":
      return { mark: await api.add(pieceId, change.mark, change.versionId) };
    case "put": {
      const { mark } = change;
      const kept = api.put(pieceId, mark, Math.max(revision, mark.revision));
      return { mark: await kept.catch((error: unknown) => arrivedBefore(error, mark)) };
    }
    case "remove":
      await api.remove(pieceId, change.mark.id);
      return { gone: true };
    case "rule":
      return api.rule(pieceId, change.markId, change.ruling, change.likely);
  }
}
