"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import type { ShownView } from "@/core/views/lookViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { Notice } from "../kit/Notice";
import { useAct } from "../useAct";
import { Page } from "../kit/Page";
import { ShownWork } from "./ShownWork";

/** A look: a classmate's (or a student's) work so far, the question, and what is said to it. */
export function LookPage({ first, teacher }: { first: ShownView; teacher: boolean }) {
  const [view, setView] = useState(first);
  const router = useRouter();
  const { act, busy, problem } = useAct();
  const params = { lookId: view.lookId! };
  const reload = async () => setView(await call(contract.look, { params }));
  const end = (as: "read" | "ended", to: string) =>
    void act(() => call(contract.endLook, { params, body: { as } })).then(
      (done) => done && router.push(to),
    );
  const back = backTo(view, teacher);
  return (
    <Page article width="table" title={`A look: ${view.title}`} className="pb-24">
      <p className="text-sm">
        <Link href={back.href} prefetch={false}>
          ← {back.words}
        </Link>
      </p>
      <header className="mt-3 mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line-strong pb-3">
        <h1>{view.title}</h1>
        <p className="text-soft">
          a look at the work of {view.own ? "yours" : view.writer} · {view.section} ·{" "}
          {view.open ? `until ${view.until}` : "over"}
        </p>
        <span className="ml-auto flex flex-wrap gap-2">
          {view.maySay && !view.done ? (
            <Button small ink="tide" disabled={busy} onClick={() => end("read", back.href)}>
              I am through
            </Button>
          ) : null}
          {view.done ? <span className="text-moss">✓ read</span> : null}
          {view.mayEnd ? (
            <Button small disabled={busy} onClick={() => end("ended", back.href)}>
              End this look
            </Button>
          ) : null}
        </span>
      </header>
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <ShownWork view={view} onView={setView} reload={reload} />
    </Page>
  );
}

function backTo(view: ShownView, teacher: boolean): { href: string; words: string } {
  if (teacher) return { href: `/hand-outs/${view.handOutId}#shown`, words: "the hand-out" };
  if (view.own) return { href: `/work/${view.pieceId}`, words: "my piece" };
  return { href: "/work", words: "My work" };
}
