import { nearlySame } from "@/core/comments/alike";
import { wholeComment } from "@/core/comments/schema";
import {
  bankToCsv,
  bankToJson,
  toEntry,
  type BankFault,
  type Merged,
} from "@/core/formats/commentBank";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { readInThread } from "../threads/threads";
import { readBank } from "./bank";

/** A teacher's own bank as a file: CSV (RFC 4180) or JSON. */
export async function bankOut(call: ReadCall, as: string | undefined): Promise<Response> {
  const entries = (await readBank(call)).filter((c) => c.mine).map(toEntry);
  const json = as === "json";
  return new Response(json ? bankToJson(entries) : `\ufeff${bankToCsv(entries)}`, {
    headers: {
      "content-type": json
        ? "application/json; charset=utf-8"
        : "text/csv; charset=utf-8; header=present",
      "content-disposition": `attachment; filename="comments.${json ? "json" : "csv"}"`,
      "cache-control": "no-store",
    },
  });
}

/** What a file or pasted list would bring: nothing is changed yet. */
export async function readBankIn(
  call: ReadCall,
  { text }: { text: string },
): Promise<{ merged: Merged[]; faults: BankFault[] }> {
  requireKind(call.who, "teacher");
  const own = (await readBank(call)).filter((c) => c.mine);
  const known = own.map(({ id, text, shorthand }) => ({ id, text, shorthand }));
  return readInThread(call.who, "readBankInto", [text, known]);
}

/** Brings comments in, read already: those that are new, and those nearly the same that were chosen. What is there already stays as it is. */
export async function bringIn(
  { tx, who, now, newId }: Call,
  { alsoNear, folder }: { alsoNear: number[]; folder: string },
  { merged }: { merged: Merged[] },
): Promise<{ added: number }> {
  requireKind(who, "teacher");
  const chosen = merged.filter(
    (m, n) => m.state === "new" || (m.state === "nearly the same" && alsoNear.includes(n)),
  );
  const rows = chosen.map(({ entry, shorthandTaken }) => ({
    id: newId(),
    ownerId: who.id,
    ...wholeComment({ ...entry, folder: entry.folder || folder }),
    ...(shorthandTaken ? { shorthand: null } : {}),
    createdAt: now,
  }));
  for (let n = 0; n < rows.length; n += 500)
    await tx`insert into comment ${tx(rows.slice(n, n + 500))}`;
  return { added: rows.length };
}

/** How many of a teacher's own notes are looked through for one said before. */
const LATEST_NOTES = 1500;
/** A longer note is about one piece alone; nobody says it again. */
const LONGEST_NOTE = 800;

/**
 * Whether a teacher has said nearly this before without a comment of the bank: how often (this time counted),
 * or the comment of the bank that says it already. Index: mark_by.
 */
export async function saidBefore(
  call: ReadCall,
  { text }: { text: string },
): Promise<{
  times: number;
  inBank: { id: string; text: string; shorthand: string | null } | null;
}> {
  const { db, who } = call;
  requireKind(who, "teacher");
  const said = await db<{ text: string }[]>`
    select mark.body as text
    from mark
    where mark.created_by = ${who.id} and mark.kind = 'note' and mark.comment_id is null and mark.again_of is null and mark.deleted_at is null
      and length(mark.body) <= ${LONGEST_NOTE}
    order by mark.created_at desc
    limit ${LATEST_NOTES}`;
  const [kept] = nearlySame(
    text,
    (await readBank(call)).map((c) => ({ text: c.text, comment: c })),
  );
  return {
    times: nearlySame(text, said).length,
    inBank: kept
      ? { id: kept.comment.id, text: kept.comment.text, shorthand: kept.comment.shorthand }
      : null,
  };
}
