"use client";

import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import type { DeskPiece } from "@/core/views/deskViews";
import { PartsLine } from "./sheet/DeskParts";
import { Claim } from "./beside/Claim";
import { usePieceOnDesk } from "./model";

/** @example "412 words, 3 files" */
const sayWork = ({ words, items }: DeskPiece) =>
  [
    words > 0 || items.length === 0 ? sayCount(words, "word") : "",
    items.length > 0 ? sayCount(items.length, "file") : "",
  ]
    .filter(Boolean)
    .join(", ");

/** When it came, what there is of it, and what the student says of it: one line, and more only where there is more. */
export function PieceFacts() {
  const { session, piece } = usePieceOnDesk();
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-sm text-soft">
      <p className="flex flex-wrap items-baseline gap-x-2">
        {piece.handedIn ? (
          <>
            <span>handed in {piece.handedIn.words}</span>
            <span className={piece.handedIn.late ? "font-semibold text-ember" : undefined}>
              {piece.handedIn.late ? "◥ " : ""}
              {piece.handedIn.lateness}
            </span>
            <span>
              · {sayWork(piece)}
              {piece.versionCount > 1 ? ` · version ${piece.versionCount}` : ""}
            </span>
          </>
        ) : (
          `due ${piece.due}`
        )}
        <span>
          · <em className="font-serif">{piece.title}</em>, {piece.section}
        </span>
        {piece.studentId ? (
          <Link href={`/students/${piece.studentId}`} prefetch={false}>
            all of theirs
          </Link>
        ) : null}
      </p>
      <PartsLine piece={piece} />
      <Claim piece={piece} onDone={() => void session.store.load()} />
      {piece.changes ? (
        <p className="w-full border-l-2 border-plum pl-3 text-base text-ink">
          <span className="label">what they changed</span>{" "}
          <span className="font-serif">{piece.changes}</span>
        </p>
      ) : null}
      {piece.self || piece.copies.length > 0 ? (
        <p className="w-full">
          {piece.self ? <span className="mr-5">How it went: {piece.self}</span> : null}
          {piece.copies.map((copy) => (
            <a key={copy.materialId} href={`/api/uploads/${copy.uploadId}`} className="mr-4">
              {copy.title}
              <span className="text-soft">
                {" "}
                ({copy.when ? `their copy, changed ${copy.when}` : "their copy, unchanged"})
              </span>
            </a>
          ))}
        </p>
      ) : null}
    </div>
  );
}
