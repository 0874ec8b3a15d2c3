import { CONTENTS_NAME, TABLE_NAME, type Known } from "@/core/fetching/comeBack";
import { fileNames, foldersFor, safeName } from "@/core/fetching/folders";
import { writeTable } from "@/core/formats/table";
import { Refused } from "@/core/refusals";
import { finalScore, type FinalScore } from "@/core/rounds/roundsRule";
import { sayPoints, type ScoreKind } from "@/core/scores/scales";
import { isEmptyDoc, plainText } from "@/core/text/plainText";
import { sayExactly } from "@/core/time/words";
import { sayState } from "@/core/views/states";
import { requireOnHandOut } from "../access/standing";
import { readBlob, streamOf } from "../blobs/blobs";
import type { ReadCall } from "../call";
import { database } from "../db/connection";
import { readContent } from "../life/queries";
import { lateWords, moonOf, scoresByRound, type StandingRow } from "../life/standings";
import { hiddenNow, plainFile, readNumbers, unlinked } from "../names/names";
import { readInThread } from "../threads/threads";
import { zipOf, type Entry } from "./zipOf";

type Piece = StandingRow & {
  pieceId: string;
  student: string;
  sortName: string;
  hidden: boolean;
  versionId: string | null;
  finals: string[];
  files: { name: string; sha256: string; size: string }[] | null;
  scoreKind: ScoreKind;
  pointsPossible: string | null;
  finalScore: FinalScore;
  winBackPercent: string;
};

/** The format's own limit without its 64-bit extension, less room for the directory. */
const MOST_BYTES = 4_000_000_000;

/**
 * Everything of a hand-out as one zip: a folder for each student, with the words of the newest hand-in as DOCX and
 * HTML and the files as they were, and at the end a table of who is who. With names hidden, under the numbers.
 *
 * It is made as it is read, so it cannot be read on from the middle: a fetch that was cut lacks the table, and begins
 * anew.
 */
export async function giveWholeHandOut(call: ReadCall, handOutId: string): Promise<Response> {
  await requireOnHandOut(call.db, call.who, handOutId, "feedback.see");
  const [about, pieces] = await Promise.all([
    readTitle(call, handOutId),
    readPieces(call, handOutId),
  ]);
  const size = pieces.flatMap((p) => p.files ?? []).reduce((sum, f) => sum + Number(f.size), 0);
  if (size > MOST_BYTES)
    throw new Refused(
      "Together these files are more than a zip can hold (4 GB). Fetch them from the Desk, piece by piece.",
    );
  const title = safeName(`${about.title}, ${about.section}`, "work");
  return new Response(streamOf(asBuffers(zipOf(entriesOf(call, title, pieces)))), {
    headers: {
      "content-type": "application/zip",
      "content-disposition": `attachment; filename*=UTF-8''${encodeURIComponent(`${title}.zip`)}`,
      "cache-control": "no-store",
      "accept-ranges": "none",
      "x-content-type-options": "nosniff",
    },
  });
}

/** The pieces of a hand-out as the folders of its zip name them, for files that come back. */
export async function folderCodes(call: ReadCall, handOutId: string): Promise<Known[]> {
  await requireOnHandOut(call.db, call.who, handOutId, "feedback.draft");
  const pieces = await readPieces(call, handOutId);
  const folders = foldersFor(pieces);
  return pieces.map(({ pieceId, student }) => ({
    pieceId,
    student,
    ...folders.get(pieceId)!,
  }));
}

async function* asBuffers(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Buffer> {
  for await (const chunk of chunks) yield Buffer.from(chunk.buffer, chunk.byteOffset, chunk.length);
}

async function readTitle({ db }: ReadCall, handOutId: string) {
  const [row] = await db<{ title: string; section: string }[]>`
    select full_title(null, assignment.number, assignment.title) as title, section.name as section
    from hand_out
    join assignment on assignment.id = hand_out.assignment_id
    join section on section.id = hand_out.section_id
    where hand_out.id = ${handOutId}`;
  return row!;
}

/** The pieces in the order of the register, or of their numbers. Index: piece by hand-out. */
async function readPieces({ db }: ReadCall, handOutId: string): Promise<Piece[]> {
  const rows = await db<Piece[]>`
    select
      standing.*, standing.id as piece_id, student.name as student, student.sort_name,
      ${hiddenNow(db, db`standing.id`)} as hidden, newest.id as version_id,
      assignment.score_kind, assignment.points_possible, assignment.final_score, assignment.win_back_percent,
      (
        select jsonb_agg(jsonb_build_object('name', item.name, 'sha256', encode(item.sha256, 'hex'), 'size', item.size) order by held.position)
        from version_item held
        join item on item.id = held.item_id
        where held.version_id = newest.id
      ) as files,
      ${scoresByRound(db)} as finals
    from piece_standing standing
    join person student on student.id = standing.student_id
    join hand_out on hand_out.id = standing.hand_out_id
    join assignment on assignment.id = hand_out.assignment_id
    left join lateral (
      select id from version where piece_id = standing.id order by number desc limit 1
    ) newest on standing.state not in ('not_opened', 'started')
    where standing.hand_out_id = ${handOutId}
    order by student.sort_name, standing.id`;
  if (!rows.some((row) => row.hidden)) return rows;
  const numbers = await readNumbers(db, handOutId);
  const named = rows.map((row) =>
    row.hidden ? numbered(row, numbers.get(row.pieceId) ?? 0) : row,
  );
  return named.sort((a, b) => a.sortName.localeCompare(b.sortName));
}

/** Nothing is left of it that says whose it is. */
function numbered(piece: Piece, number: number): Piece {
  const name = `Piece ${String(number).padStart(3, "0")}`;
  const files = piece.files?.map((file, n) => ({ ...file, name: plainFile(file.name, n) }));
  return { ...piece, student: name, sortName: name, files: files ?? null };
}

async function* entriesOf(
  call: ReadCall,
  title: string,
  pieces: readonly Piece[],
): AsyncGenerator<Entry> {
  const folders = foldersFor(pieces);
  const contents: Record<string, number> = {};
  const noting = (name: string, at: Date, bytes: AsyncIterable<Uint8Array>): Entry => {
    const path = `${title}/${name}`;
    return { name: path, at, bytes, onEnd: (crc) => (contents[path] = crc) };
  };
  const table = [["folder", "code", "student", "state", "handed in", "lateness", "score", "files"]];
  for (const piece of pieces) {
    const { folder, code } = folders.get(piece.pieceId)!;
    const at = piece.handedInAt ?? call.now;
    const names = fileNames(piece.files?.map((file) => file.name) ?? []);
    const words = piece.versionId ? await wordsOf(call, piece, `${title}: ${piece.student}`) : [];
    for (const { name, bytes } of words) yield noting(`${folder}/${name}`, at, once(bytes));
    for (const [n, file] of (piece.files ?? []).entries())
      yield noting(
        `${folder}/${names[n]!}`,
        at,
        readBlob(database(), Buffer.from(file.sha256, "hex")),
      );
    table.push([folder, code, ...lineOf(piece, call), String(names.length)]);
  }
  // By which it is known, when the zip comes back, what was changed since.
  const known = Buffer.from(JSON.stringify(contents));
  yield { name: `${title}/${CONTENTS_NAME}`, at: call.now, bytes: once(known) };
  // Last, so that a fetch that was cut is known by its missing.
  const text = `\uFEFF${writeTable(table)}`;
  yield { name: `${title}/${TABLE_NAME}`, at: call.now, bytes: once(Buffer.from(text)) };
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** The words of a hand-in as files; made in a thread, one piece at a time. */
async function wordsOf(
  { who }: ReadCall,
  { versionId }: Piece,
  title: string,
): Promise<{ name: string; bytes: Uint8Array }[]> {
  const { doc } = await readContent(database(), versionId!);
  if (isEmptyDoc(doc)) return [];
  try {
    const { docx, html } = await readInThread(who, "wordsOut", [title, doc]);
    return [
      { name: "writing.docx", bytes: docx },
      { name: "writing.html", bytes: Buffer.from(html) },
    ];
  } catch (error) {
    // One text that takes too long to set does not cost the others: its words come plain.
    if (!(error instanceof Refused)) throw error;
    return [{ name: "writing.txt", bytes: Buffer.from(plainText(doc).text) }];
  }
}

function lineOf(piece: Piece, { now, who }: ReadCall): string[] {
  const moon = piece.hidden ? unlinked(moonOf(piece, now)) : moonOf(piece, now);
  const final = finalScore(piece.finals, {
    final: piece.finalScore,
    winBackPercent: piece.winBackPercent,
  });
  const scale = { kind: piece.scoreKind, possible: piece.pointsPossible };
  const told = piece.hidden
    ? ["", ""]
    : [
        piece.handedInAt ? sayExactly(piece.handedInAt, who.zone) : "",
        lateWords(piece, who.zone) ?? "",
      ];
  return [piece.student, sayState(moon), ...told, final === null ? "" : sayPoints(final, scale)];
}
