import type { SelfAssessment } from "@/core/handouts/plan";
import { NotFound } from "@/core/refusals";
import type { RichDoc } from "@/core/text/richDoc";
import { sayTime } from "@/core/time/words";
import type { CopyView, MaterialView, PieceView } from "@/core/views/views";
import { requireOnPiece } from "../access/standing";
import type { Call, ReadCall } from "../call";
import type { Db } from "../db/connection";
import { lookAtFile, storeUpload, type KeptFile } from "../uploads/uploads";
import { requireRoom } from "../transfers/transfers";
import { decide } from "../life/decide";
import { lockPiece, recordEvent } from "../life/queries";

/** What a student was given with the task: materials, goals, the question at hand-in, and word of changes. */
type Given = {
  beginsWith: RichDoc | null;
  view: Pick<PieceView, "materials" | "selfAssessment" | "wordGoal" | "openBefore" | "notices">;
};

type MaterialRow = {
  id: string;
  kind: MaterialView["kind"];
  use: "look" | "copy";
  title: string;
  href: string | null;
  uploadId: string | null;
  doc: RichDoc | null;
  ownId: string | null;
  ownAt: Date | null;
};

export async function readGiven({ db, who, now }: ReadCall, pieceId: string): Promise<Given> {
  const [[about], materials, notices] = await Promise.all([
    db<
      {
        selfAssessment: SelfAssessment | null;
        wordsLeast: number | null;
        wordsMost: number | null;
        openBefore: boolean;
      }[]
    >`
      select assignment.self_assessment, assignment.words_least, assignment.words_most, assignment.open_before
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join assignment on assignment.id = hand_out.assignment_id
      where piece.id = ${pieceId}`,
    db<MaterialRow[]>`
      select material.id, material.kind, material.use, material.title, material.href, material.upload_id, material.doc, own.upload_id as own_id, own.saved_at as own_at
      from piece
      join hand_out on hand_out.id = piece.hand_out_id
      join material on material.assignment_id = hand_out.assignment_id and (material.version_id is null or material.version_id = piece.version_id)
      left join lateral (select upload_id, saved_at from piece_copy where piece_id = piece.id and material_id = material.id order by number desc limit 1) own on true
      where piece.id = ${pieceId}
      order by material.position`,
    db<
      { words: string; at: Date }[]
    >`select words, at from piece_notice where piece_id = ${pieceId} order by at desc limit 5`,
  ]);
  const { selfAssessment, wordsLeast, wordsMost, openBefore } = about!;
  const shared = materials.some((m) => m.use === "copy");
  return {
    beginsWith: materials.find((m) => m.kind === "text" && m.use === "copy")?.doc ?? null,
    view: {
      // The text to write in is the piece itself.
      materials: materials
        .filter((m) => !(m.kind === "text" && m.use === "copy"))
        .map((m) => materialView(m, now, who.zone)),
      selfAssessment,
      wordGoal: { least: wordsLeast, most: wordsMost },
      openBefore: openBefore || shared,
      notices: notices.map((n) => ({ words: n.words, when: sayTime(n.at, now, who.zone) })),
    },
  };
}

function materialView(row: MaterialRow, now: Date, zone: string): MaterialView {
  const own =
    row.kind === "file" && row.use === "copy"
      ? { uploadId: row.ownId ?? row.uploadId!, when: row.ownAt && sayTime(row.ownAt, now, zone) }
      : null;
  return {
    id: row.id,
    kind: row.kind,
    title: row.title,
    href: row.href ?? (row.uploadId ? `/api/uploads/${own?.uploadId ?? row.uploadId}` : null),
    doc: row.doc,
    own,
  };
}

/** The student's own copies of files, for the teacher: open at any time, before hand-in too. */
export async function readCopies({ db, who, now }: ReadCall, pieceId: string): Promise<CopyView[]> {
  const rows = await db<(Omit<CopyView, "when"> & { savedAt: Date | null })[]>`
    select material.id as material_id, material.title, coalesce(own.upload_id, material.upload_id) as upload_id, own.saved_at
    from piece
    join hand_out on hand_out.id = piece.hand_out_id
    join material on material.assignment_id = hand_out.assignment_id and material.kind = 'file' and material.use = 'copy'
    left join lateral (select upload_id, saved_at from piece_copy where piece_id = piece.id and material_id = material.id order by number desc limit 1) own on true
    where piece.id = ${pieceId} and own.upload_id is not null
    order by material.position`;
  return rows.map(({ savedAt, ...row }) => ({
    ...row,
    when: savedAt && sayTime(savedAt, now, who.zone),
  }));
}

/** Looks into a changed copy before `saveCopy`; who may not write in the piece is told so first. */
export async function lookAtCopy(
  call: ReadCall,
  pieceId: string,
  file: { name: string; bytes: Buffer },
): Promise<KeptFile> {
  await requireOnPiece(call, pieceId, "piece.write");
  await requireRoom(call, pieceId, file.bytes.length);
  return lookAtFile(call.who, file);
}

/** Puts a changed file in the place of the student's own copy; the earlier ones are kept. */
export async function saveCopy(
  call: Call,
  pieceId: string,
  materialId: string,
  kept: KeptFile,
): Promise<{ uploadId: string; when: string }> {
  const { tx, who, now } = call;
  await requireOnPiece(call, pieceId, "piece.write");
  const piece = await lockPiece(tx, pieceId);
  const [material] = await tx`
    select material.id
    from material
    join hand_out on hand_out.assignment_id = material.assignment_id
    where material.id = ${materialId} and hand_out.id = ${piece.handOutId} and material.kind = 'file' and material.use = 'copy'`;
  if (!material) throw new NotFound();
  // Work that is not written here keeps its copy open until the hand-out closes.
  decide({ ...piece, expects: "work" }, { kind: "write" }, "student", now);
  const { id } = await storeUpload(call, kept);
  await tx`
    insert into piece_copy (piece_id, material_id, number, upload_id, saved_at)
    select ${pieceId}, ${materialId}, coalesce(max(number), 0) + 1, ${id}, ${now}
    from piece_copy
    where piece_id = ${pieceId} and material_id = ${materialId}`;
  await recordEvent(call, {
    handOutId: piece.handOutId,
    pieceId,
    kind: "changed their copy of a file",
    detail: {},
  });
  return { uploadId: id, when: sayTime(now, now, who.zone) };
}

/** How it went, in the student's own words. */
export type SaidOfIt = { choice: string | null; words: string };

export async function storeSelfAssessment(
  { tx }: Call,
  pieceId: string,
  { choice, words }: SaidOfIt,
): Promise<void> {
  await tx`
    insert into self_assessment (version_id, choice, words)
    select version.id, ${choice}, ${words.trim()}
    from version
    where version.piece_id = ${pieceId}
    order by version.number desc
    limit 1`;
}

export async function readSelfAssessment(db: Db, versionId: string): Promise<string | null> {
  const [row] = await db<
    { choice: string | null; words: string }[]
  >`select choice, words from self_assessment where version_id = ${versionId}`;
  return row ? [row.choice, row.words].filter(Boolean).join(": ") || null : null;
}
