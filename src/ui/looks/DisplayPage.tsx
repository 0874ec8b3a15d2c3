"use client";

import Link from "next/link";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { sayCount } from "@/core/text/sayCount";
import type { DisplayedPiece, DisplayView, ShownView } from "@/core/views/lookViews";
import { call } from "../client";
import { Empty, Notice } from "../kit/Notice";
import { classes } from "../kit/classes";
import { Page } from "../kit/Page";
import { ShownWork } from "./ShownWork";

type Props = { display: DisplayView; piece: ShownView | null; teacher: boolean };

/** A display: the work that is shown, as cards, and one of them opened with what is said of it. */
export function DisplayPage({ display, piece, teacher }: Props) {
  const base = `/displays/${display.handOutId}`;
  return (
    <Page article width="table" title={`Display: ${display.title}`} className="pb-24">
      <p className="text-sm">
        {piece ? (
          <Link href={base} prefetch={false}>
            ← all that is shown
          </Link>
        ) : (
          <Link href={teacher ? `/hand-outs/${display.handOutId}#shown` : "/work"} prefetch={false}>
            ← {teacher ? "the hand-out" : "My work"}
          </Link>
        )}
      </p>
      <header className="mt-3 mb-4 border-b border-line-strong pb-3">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1>{display.title}</h1>
          <p className="text-soft">
            display of {display.section} ·{" "}
            {display.open ? `open until ${display.until}` : "closed: only teachers see it"}
          </p>
        </div>
        <p className="mt-1 text-sm text-soft">{sayRules(display)}</p>
      </header>
      {piece ? (
        <Opened key={piece.pieceId} display={display} first={piece} />
      ) : (
        <Cards display={display} base={base} />
      )}
    </Page>
  );
}

function sayRules({ named, readFirst, onlyHandedIn }: DisplayView): string {
  return [
    named ? "With names" : "Without names",
    readFirst ? "a teacher reads first what students say" : "what is said is seen at once",
    onlyHandedIn ? "for those who have handed in" : "for everyone who has this work",
  ].join(" · ");
}

function Cards({ display, base }: { display: DisplayView; base: string }) {
  if (display.pieces.length === 0)
    return (
      <Empty title="Nothing is shown yet">When someone hands in, their work stands here.</Empty>
    );
  return (
    <ul className="grid gap-4 [grid-template-columns:repeat(auto-fill,minmax(min(14rem,100%),1fr))]">
      {display.pieces.map((piece) => (
        <li key={piece.pieceId}>
          <Card piece={piece} href={`${base}?piece=${piece.pieceId}`} />
        </li>
      ))}
    </ul>
  );
}

function Card({ piece, href }: { piece: DisplayedPiece; href: string }) {
  return (
    <Link
      href={href}
      prefetch={false}
      className={classes(
        "flex h-full min-h-40 flex-col border bg-raised text-ink no-underline hover:bg-sunk",
        piece.own ? "border-tide" : "border-line-strong",
      )}
    >
      {piece.picture ? (
        // eslint-disable-next-line @next/next/no-img-element
        <img
          src={piece.picture}
          alt=""
          loading="lazy"
          className="aspect-[4/3] w-full object-cover"
        />
      ) : (
        <span className="flex-1 p-3">
          <span className="line-clamp-5 font-serif">
            {piece.begins || <span className="text-soft">open it to see</span>}
          </span>
        </span>
      )}
      <span
        className={classes(
          "flex flex-wrap items-baseline gap-x-3 border-t border-line px-3 py-2 text-sm",
          // All pictures of a row are equally high: where names take one line, the room is under the name.
          piece.picture ? "flex-1 content-start" : "mt-auto",
        )}
      >
        <span className="font-semibold">{piece.name}</span>
        <span className="text-soft">
          {piece.said === 0 ? "nothing said yet" : `${sayCount(piece.said, "comment")}`}
        </span>
        {piece.waits > 0 ? <span className="text-ember">▲ {piece.waits} to read</span> : null}
        {piece.reported > 0 ? (
          <span className="font-semibold text-ember">▲ {piece.reported} reported</span>
        ) : null}
      </span>
    </Link>
  );
}

function Opened({ display, first }: { display: DisplayView; first: ShownView }) {
  const [view, setView] = useState(first);
  const reload = async () =>
    setView(await call(contract.displayedPiece, { params: { pieceId: view.pieceId } }));
  const at = display.pieces.findIndex((p) => p.pieceId === view.pieceId);
  const beside = (n: number) => display.pieces[at + n];
  const href = (piece: DisplayedPiece) => `/displays/${display.handOutId}?piece=${piece.pieceId}`;
  return (
    <>
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4">
        <h2>{view.own ? "My work" : view.writer}</h2>
        <nav aria-label="Other work on the display" className="ml-auto flex gap-4 text-sm">
          {[
            { piece: beside(-1), words: "← the one before" },
            { piece: beside(1), words: "the next one →" },
          ].map(({ piece, words }) =>
            piece ? (
              <Link
                key={words}
                href={href(piece)}
                prefetch={false}
                className="max-sm:inline-flex max-sm:min-h-11 max-sm:items-center"
              >
                {words}
              </Link>
            ) : null,
          )}
        </nav>
      </div>
      {display.open ? null : (
        <Notice ink="tide" className="mb-4">
          This display is closed: classmates see nothing of it any more.
        </Notice>
      )}
      <ShownWork view={view} onView={setView} reload={reload} />
    </>
  );
}
