"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { FOUND_KINDS, search, type FoundKind } from "@/core/search/search";
import type { FoundView, MastheadView } from "@/core/views/overviewViews";
import { Dialog } from "../kit/Dialog";
import { Notice } from "../kit/Notice";
import { pagesFor } from "./pages";
import { useFind } from "./useFind";

const HEADS: Record<FoundKind, string> = {
  piece: "pieces",
  student: "students",
  section: "sections",
  handOut: "hand-outs",
  comment: "comments",
  person: "people",
  page: "screens and acts",
};
/** What was named by two things at once is meant most; screens come last, but for whoever types nothing else. */
const ORDER = [...FOUND_KINDS].sort((a, b) => rank(a) - rank(b));
function rank(kind: FoundKind): number {
  return Object.keys(HEADS).indexOf(kind);
}

const WHAT: Record<MastheadView["kind"], string> = {
  teacher: "a student, a hand-out, both for a piece, words of a comment, a screen",
  student: "a piece of work, a screen",
  guardian: "a screen",
  office: "a name, a screen",
};

/** Everything this person may see, by a few letters. */
export default function FindDialog({
  kind,
  onClose,
}: {
  kind: MastheadView["kind"];
  onClose: () => void;
}) {
  const router = useRouter();
  const [typed, setTyped] = useState("");
  const { found, problem, looking } = useFind(typed);
  const pages = search(pagesFor(kind), typed, 5);
  const all: FoundView[] = [...found, ...pages];
  const go = (href: string) => {
    onClose();
    router.push(href);
  };
  return (
    <Dialog open onClose={onClose} title="Search" wide>
      <Command shouldFilter={false} label={`Find ${WHAT[kind]}`}>
        <Command.Input
          autoFocus
          value={typed}
          onValueChange={setTyped}
          maxLength={80}
          placeholder={WHAT[kind]}
          className="mb-2 w-full border border-line-strong bg-paper px-3 py-2"
        />
        {problem ? <Notice ink="ember">{problem}</Notice> : null}
        <p role="status" className="sr-only">
          {typed.trim() === "" || looking ? "" : `${all.length} found`}
        </p>
        <Command.List className="max-h-[56dvh] min-h-64 overflow-auto">
          {typed.trim() !== "" && !looking && all.length === 0 && !problem ? (
            <p className="p-3 text-soft">Nothing fits these letters.</p>
          ) : null}
          {ORDER.map((one) => (
            <Hits key={one} kind={one} hits={all.filter((hit) => hit.kind === one)} go={go} />
          ))}
        </Command.List>
      </Command>
    </Dialog>
  );
}

function Hits({
  kind,
  hits,
  go,
}: {
  kind: FoundKind;
  hits: readonly FoundView[];
  go: (href: string) => void;
}) {
  if (hits.length === 0) return null;
  return (
    <Command.Group heading={<span className="label">{HEADS[kind]}</span>}>
      {hits.map((hit) => (
        <Command.Item
          key={hit.id}
          value={`${kind} ${hit.id}`}
          onSelect={() => go(hit.href)}
          className="flex min-h-9 cursor-pointer items-baseline gap-3 border-b border-line px-2 py-1.5 aria-selected:bg-tide-wash max-sm:min-h-11"
        >
          <span className="line-clamp-2 min-w-0 flex-1">{hit.words}</span>
          <span className="max-w-[50%] truncate text-sm text-soft">{hit.about}</span>
        </Command.Item>
      ))}
    </Command.Group>
  );
}
