"use client";

import { Command } from "cmdk";
import { lookUp } from "@/core/comments/lookup";
import type { CommentView } from "@/core/views/views";
import type { QueueItem } from "@/core/views/deskViews";
import { sayState } from "@/core/views/states";
import { useState } from "react";
import { search, type FoundKind } from "@/core/search/search";
import { useRouter } from "next/navigation";
import { useFind } from "../../search/useFind";
import { Dialog } from "../../kit/Dialog";
import { useDesk } from "../model";
import { DESK_COMMANDS } from "./commands";
import { findPieces } from "./findPieces";
import { keyOf, showKey } from "./keys";

/** Everything of the Desk by a few letters: its acts, the pieces of the pile, the comments of the bank. */
export function Palette() {
  const router = useRouter();
  const { session, view, own: settings, pile, bank: known, run: obey } = useDesk();
  const { keys: own } = settings;
  const { items: queue } = pile;
  const { bank } = known;
  const [asked, setAsked] = useState("");
  const [chosen, setChosen] = useState("");
  const found = find(asked, queue, bank);
  function ask(text: string) {
    setAsked(text);
    // The first of what these letters find, at once: Enter means it.
    const { acts, pieces, comments } = find(text, queue, bank);
    setChosen(
      [
        ...acts.map((a) => `act ${a.id}`),
        ...pieces.map((p) => `piece ${p.pieceId}`),
        ...comments.map((c) => `comment ${c.id}`),
      ][0] ?? "",
    );
  }
  const run = (work: () => void) => () => {
    setAsked("");
    session.close();
    // After the dialog has given the focus back, so that the act can take it.
    setTimeout(work, 0);
  };
  const item =
    "flex cursor-pointer items-baseline gap-3 border-b border-line px-2 py-1.5 text-sm aria-selected:bg-tide-wash";
  return (
    <Dialog open={view.open === "palette"} onClose={() => run(() => {})()} title="Find" wide>
      <Command
        shouldFilter={false}
        value={chosen}
        onValueChange={setChosen}
        label="Find an act, a piece or a comment"
      >
        <Command.Input
          autoFocus
          value={asked}
          onValueChange={ask}
          placeholder="an act, a student, words of a comment"
          className="mb-2 w-full border border-line-strong bg-paper px-3 py-2"
        />
        <Command.List className="max-h-[50vh] overflow-auto">
          <Command.Empty className="p-3 text-soft">Nothing fits these letters.</Command.Empty>
          <Command.Group heading={<span className="label">acts</span>}>
            {found.acts.map((a) => (
              <Command.Item
                key={a.id}
                value={`act ${a.id}`}
                className={item}
                onSelect={run(() => obey(a.id))}
              >
                <span className="flex-1">{a.words}</span>
                <kbd className="border border-line-strong bg-sunk px-1.5 text-xs">
                  {showKey(keyOf(a.id, own))}
                </kbd>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading={<span className="label">pieces</span>}>
            {found.pieces.map((q) => (
              <Command.Item
                key={q.pieceId}
                value={`piece ${q.pieceId}`}
                className={item}
                onSelect={run(() => pile.goTo(q.pieceId))}
              >
                <span className="flex-1">{q.student}</span>
                <span className="text-soft">
                  {q.handOut} · {sayState(q.moon)}
                </span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading={<span className="label">comments</span>}>
            {found.comments.map((c) => (
              <Command.Item
                key={c.id}
                value={`comment ${c.id}`}
                className={item}
                onSelect={run(() => session.marking.take(c))}
              >
                <span className="font-semibold">{c.shorthand ? `;${c.shorthand}` : ""}</span>
                <span className="flex-1">{c.text}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Elsewhere
            typed={asked}
            known={queue}
            go={(href) => run(() => router.push(href))}
            item={item}
          />
        </Command.List>
      </Command>
    </Dialog>
  );
}

const ELSEWHERE: readonly FoundKind[] = ["piece", "student", "handOut", "section"];

/** What is found beyond this pile: as from any other screen. */
function Elsewhere({
  typed,
  known,
  go,
  item,
}: {
  typed: string;
  known: readonly QueueItem[];
  go: (href: string) => () => void;
  item: string;
}) {
  const { found } = useFind(typed);
  const here = new Set(known.map(({ pieceId }) => pieceId));
  const hits = found.filter(
    ({ kind, id }) => ELSEWHERE.includes(kind) && !(kind === "piece" && here.has(id)),
  );
  if (hits.length === 0) return null;
  return (
    <Command.Group heading={<span className="label">anywhere</span>}>
      {hits.map((hit) => (
        <Command.Item
          key={hit.href}
          value={`anywhere ${hit.href}`}
          className={item}
          onSelect={go(hit.href)}
        >
          <span className="flex-1">{hit.words}</span>
          <span className="text-soft">{hit.about}</span>
        </Command.Item>
      ))}
    </Command.Group>
  );
}

const ACTS = DESK_COMMANDS.filter((act) => act.id !== "palette");
const FINDABLE = ACTS.map((act) => ({
  ...{ kind: "page" as const, id: act.id, href: "", act },
  words: act.words,
  about: act.of,
}));

/** Without case and accents, and with slips forgiven, as from any other screen. */
function find(asked: string, queue: readonly QueueItem[], bank: readonly CommentView[]) {
  const blank = asked.trim() === "";
  return {
    acts: blank ? ACTS : search(FINDABLE, asked, ACTS.length).map(({ act }) => act),
    pieces: findPieces(queue, asked, 8),
    comments: asked.trim().length > 1 ? lookUp(bank, asked, 6) : [],
  };
}
