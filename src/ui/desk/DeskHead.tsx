"use client";

import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import { Popover } from "radix-ui";
import { QUEUE_ORDERS, type QueueOrder } from "@/core/desk/queueOrder";
import { sayState } from "@/core/views/states";
import { contract } from "@/core/api/contract";
import { PIECE_FLAGS } from "@/core/pieces/flags";
import type { DeskPiece } from "@/core/views/deskViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { RadioLine } from "../kit/Choices";
import { Moon } from "../kit/Moon";
import { PartsLine } from "./sheet/DeskParts";
import { Claim } from "./beside/Claim";
import { setExcused, setFlag } from "./commands/flags";
import { useDesk, usePieceOnDesk } from "./model";

const ORDER_WORDS: Readonly<Record<QueueOrder, string>> = {
  "hand-in": "as they came in",
  name: "by name",
  "late first": "late first",
  "rework first": "rework first",
  random: "shuffled",
};

/** The bar over the Desk: where this pile comes from, its order, and going on. */
export function DeskBar() {
  const { session, pile, about, run } = useDesk();
  const { title, back, across, anonymous, handOut, pace } = about;
  const { order, unreadOnly } = pile;
  async function hideNames() {
    const answer = await session.store.attempt(() =>
      call(contract.setAnonymous, {
        params: { handOutId: handOut! },
        body: { anonymous: !anonymous },
      }),
    );
    // Names are in every view that was fetched: the page begins anew without (or with) them.
    if (answer) window.location.reload();
  }
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-1 text-sm sm:px-6">
      <Link href={back.href} className="text-tide">
        ← {back.words}
      </Link>
      <span className="text-soft">{title}</span>
      <Popover.Root>
        <Popover.Trigger className="min-h-7 cursor-pointer border border-line-strong bg-raised px-2 hover:bg-sunk">
          this pile: {ORDER_WORDS[order]}
          {unreadOnly ? ", not read" : ""}
          {anonymous ? ", names hidden" : ""} ▾
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-40 grid w-64 gap-2 border border-line-strong bg-raised p-3 text-sm shadow-lifted"
            aria-label="This pile"
          >
            <RadioLine
              label="order"
              value={order}
              onChange={pile.setOrder}
              choices={QUEUE_ORDERS.map((value) => ({ value, words: ORDER_WORDS[value] }))}
            />
            <label className="flex min-h-8 items-center gap-2 border-t border-line pt-2">
              <input
                type="checkbox"
                className="size-5 accent-tide"
                checked={unreadOnly}
                onChange={() => pile.setUnreadOnly(!unreadOnly)}
              />{" "}
              only those not read
            </label>
            {anonymous === null ? null : (
              <label className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-tide"
                  checked={anonymous}
                  onChange={() => void hideNames()}
                />{" "}
                names hidden until handed back
              </label>
            )}
            {across.length > 0 ? (
              <p className="label border-t border-line pt-2">through all pieces</p>
            ) : null}
            {across.map((way) => (
              <Link key={way.href} href={way.href} className="min-h-8">
                {way.words}
              </Link>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {pace ? (
        <span
          className="text-soft"
          title="Your pace on this pile, and an estimate of the rest from it"
        >
          {pace}
        </span>
      ) : null}
      <span className="ml-auto flex flex-wrap gap-1">
        <Button small onClick={() => run("previous")} disabled={pile.current === 0}>
          ← previous <kbd>p</kbd>
        </Button>
        <Button small onClick={() => run("next")} disabled={pile.current === pile.items.length - 1}>
          next <kbd>n</kbd> →
        </Button>
        <Button small onClick={() => run("unread")}>
          waits <kbd>u</kbd>
        </Button>
        <Button small ink="quiet" onClick={() => run("beside")}>
          beside <kbd>\</kbd>
        </Button>
        <Button small ink="quiet" onClick={() => run("palette")}>
          find <kbd>Ctrl K</kbd>
        </Button>
        <Button small ink="quiet" onClick={() => run("keys")}>
          keys <kbd>?</kbd>
        </Button>
      </span>
    </div>
  );
}

/** @example "412 words, 3 files" */
const sayWork = ({ words, items }: DeskPiece) =>
  [
    words > 0 || items.length === 0 ? sayCount(words, "word") : "",
    items.length > 0 ? sayCount(items.length, "file") : "",
  ]
    .filter(Boolean)
    .join(", ");

/** Whose piece this is, when it came, and who else is at it. */
export function PieceHead() {
  const { session, piece, here, run } = usePieceOnDesk();
  return (
    <header className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      <Moon moon={piece.moon} size={26} named={false} />
      <h1 className="text-2xl!">{piece.student}</h1>
      <p className="text-soft">
        <em className="font-serif">{piece.title}</em> · {piece.section} · {sayState(piece.moon)}
        {piece.studentId ? (
          <>
            {" · "}
            <Link href={`/students/${piece.studentId}`} prefetch={false}>
              all of theirs
            </Link>
          </>
        ) : null}
      </p>
      {piece.flag || piece.moon.excused ? (
        <button
          type="button"
          className="cursor-pointer border border-ember px-1.5 text-sm text-ember"
          onClick={() => run("flag")}
          title="f"
        >
          ⚑ {piece.moon.excused ? "excused" : piece.flag}
        </button>
      ) : null}
      {here && here.others.length > 0 ? (
        <p className="border border-tide px-1.5 text-sm text-tide" role="status">
          {here.others.join(" and ")} {here.others.length === 1 ? "is" : "are"} at this piece too
        </p>
      ) : null}
      <p className="ml-auto text-sm text-soft">
        {piece.handedIn ? (
          <>
            handed in {piece.handedIn.words},{" "}
            <span className={piece.handedIn.late ? "font-semibold text-ember" : undefined}>
              {piece.handedIn.late ? "◥ " : ""}
              {piece.handedIn.lateness}
            </span>{" "}
            · {sayWork(piece)}
            {piece.versionCount > 1 ? ` · version ${piece.versionCount}` : ""}
          </>
        ) : (
          `due ${piece.due}`
        )}
      </p>
      <Claim piece={piece} onDone={() => void session.store.load()} />
      <PartsLine piece={piece} />
      {piece.changes ? (
        <p className="w-full border-l-2 border-plum pl-3">
          <span className="label">what they changed</span>{" "}
          <span className="font-serif">{piece.changes}</span>
        </p>
      ) : null}
      {piece.self || piece.copies.length > 0 ? (
        <p className="w-full text-sm">
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
    </header>
  );
}

/** Flags by key: each choice has its number. */
export function FlagDialog() {
  const { session, view, piece } = usePieceOnDesk();
  const acts: { words: string; on: boolean; run: () => void }[] = [
    ...PIECE_FLAGS.map((flag) => ({
      words: flag,
      on: piece.flag === flag,
      run: () => void setFlag(session.store, piece.flag === flag ? null : flag),
    })),
    {
      words: "excused",
      on: piece.moon.excused,
      run: () => void setExcused(session.store, !piece.moon.excused),
    },
  ];
  const choose = (n: number) => {
    acts[n]?.run();
    session.close();
  };
  return (
    <Dialog open={view.open === "flag"} onClose={session.close} title={`Flag: ${piece.student}`}>
      <div
        className="grid gap-2"
        onKeyDown={(event) => {
          if (/^[1-6]$/.test(event.key)) choose(Number(event.key) - 1);
        }}
      >
        {acts.map((act, n) => (
          <Button
            key={act.words}
            autoFocus={n === 0}
            aria-pressed={act.on}
            onClick={() => choose(n)}
            className="justify-start!"
          >
            <kbd>{n + 1}</kbd> {act.on ? "✓ " : ""}
            {act.words}
          </Button>
        ))}
        <p className="text-sm text-soft">
          A flag is a word for the section’s teachers; pressing it again takes it off. Late, missing
          and excused are seen by the student too; excused leaves the piece out of what is awaited.
        </p>
      </div>
    </Dialog>
  );
}
