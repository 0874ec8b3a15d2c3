import { hash } from "@/core/desk/queueOrder";
import { isNothingIn } from "@/core/pieces/life";
import type { MoonView } from "@/core/views/views";
import type { Fragment } from "postgres";
import type { Db } from "../db/connection";

/**
 * Names on the Desk while a hand-out is read anonymously: a piece is "Piece 7" until it is handed back. The
 * number is its place in an order that follows the pieces' ids alone, so it stays, and tells nothing.
 */
export type Hidden = { anonymous: boolean; handedBack: boolean; number: number };

export const isHidden = ({ anonymous, handedBack }: Hidden): boolean => anonymous && !handedBack;

/** The name a piece goes by on the Desk. */
export const shownName = (name: string, hidden: Hidden): string =>
  isHidden(hidden) ? `Piece ${hidden.number}` : name;

/** Whether anything in force was handed back on a piece (of one round, where that is named). */
export function isHandedBack(db: Db, pieceId: Fragment, round: Fragment | null = null) {
  return db`exists (
    select
    from hand_back
    where hand_back.piece_id = ${pieceId} ${round ? db`and hand_back.round_number = ${round}` : db``}
      and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
  )`;
}

/** Of one piece. Index: piece by hand_out. */
export async function readHidden(db: Db, pieceId: string): Promise<Hidden> {
  const [row] = await db<{ anonymous: boolean; handedBack: boolean; handOutId: string }[]>`
    select hand_out.anonymous, hand_out.id as hand_out_id, ${isHandedBack(db, db`piece.id`)} as handed_back
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    where piece.id = ${pieceId}`;
  const numbers = row!.anonymous
    ? await readNumbers(db, row!.handOutId)
    : new Map<string, number>();
  return {
    anonymous: row!.anonymous,
    handedBack: row!.handedBack,
    number: numbers.get(pieceId) ?? 0,
  };
}

/** The numbers of all pieces of a hand-out. */
export async function readNumbers(db: Db, handOutId: string): Promise<Map<string, number>> {
  const rows = await db<{ id: string }[]>`select id from piece where hand_out_id = ${handOutId}`;
  return new Map(
    rows
      .map((r) => r.id)
      .sort((a, b) => hash(a) - hash(b) || a.localeCompare(b))
      .map((id, n) => [id, n + 1]),
  );
}

/**
 * For lists that show names: whether this piece is read without its name just now, so that they must not lead to
 * it, nor say of it what its Desk says too. Needs `hand_out` beside it.
 */
export const hiddenNow = (db: Db, pieceId: Fragment) =>
  db`(hand_out.anonymous and not ${isHandedBack(db, pieceId)})`;

/** A list's line of a piece that is read without its name: given, in or not, and nothing that tells it from others. */
export function unlinked<M extends MoonView>(moon: M): M {
  const { state, missing, excused } = moon;
  const nothing = isNothingIn(state);
  return { ...moon, state: nothing ? state : "handed_in", round: 1, late: false, missing, excused };
}

/** What says whose a piece is: the student's name, and what their files are called. */
export type Telling = { name: string; as: string; files: readonly string[] };

/** Of one piece, with all that was ever handed in or shown of it. Index: item_piece. */
export async function readTelling(db: Db, pieceId: string, hidden: Hidden): Promise<Telling> {
  const [row] = await db<{ name: string; files: string[] }[]>`
    select student.name,
      coalesce((select array_agg(distinct item.name) from item where item.piece_id = piece.id), '{}') as files
    from piece
    join person student on student.id = piece.student_id
    where piece.id = ${pieceId}`;
  return { ...row!, as: shownName(row!.name, hidden) };
}

/**
 * The one way out for a piece that is read without its name: in every text of an answer, wherever it stands, the
 * name and the names of files are gone. Within a text each sign becomes a dot, so that every place in it stays where it
 * was and marks stand on their words; a text that is nothing but the name becomes the number.
 */
export function withoutNames<T>(answer: T, { name, as, files }: Telling): T {
  const inTexts = [name, ...files]
    .filter((text) => text.trim().length > 2)
    .sort((a, b) => b.length - a.length);
  const numbers = new Map(files.map((file, n) => [file, plainFile(file, n)]));
  const clean = (text: string): string => {
    if (text === name) return as;
    const file = numbers.get(text);
    if (file) return file;
    return dotted(text, inTexts);
  };
  const walk = (value: unknown): unknown => {
    if (typeof value === "string") return clean(value);
    if (Array.isArray(value)) return value.map(walk);
    if (typeof value !== "object" || value === null || value instanceof Date) return value;
    // A heading above a document's words is its file's name: dots, for marks stand on those words too.
    if ((value as { type?: unknown }).type === "text" && "text" in value)
      return { ...value, text: dotted((value as { text: string }).text, inTexts) };
    return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, walk(item)]));
  };
  return walk(answer) as T;
}

const dotted = (text: string, names: readonly string[]): string =>
  names.reduce((left, one) => left.replaceAll(one, "·".repeat(one.length)), text);

/** @example plainFile("IMG Ines.jpg", 1) // "file 2.jpg" */
export const plainFile = (name: string, n: number): string =>
  `file ${n + 1}${/\.[a-z0-9]{1,5}$/i.exec(name)?.[0] ?? ""}`;

/** For an answer about one piece: as it is, or without names while the piece is read so. */
export async function namesOut<T>(db: Db, pieceId: string, answer: T): Promise<T> {
  const hidden = await readHidden(db, pieceId);
  return isHidden(hidden) ? withoutNames(answer, await readTelling(db, pieceId, hidden)) : answer;
}
