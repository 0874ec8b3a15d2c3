"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { isReady, isStopped } from "@/core/handingBack/readiness";
import { sayCount } from "@/core/text/sayCount";
import type { BackLine, BackPlan } from "@/core/views/handBackViews";
import { call } from "../client";
import { Chip } from "../kit/Choices";
import { Empty } from "../kit/Notice";
import { useAct } from "../useAct";
import { AsStudent } from "./AsStudent";
import { useChosenBefore } from "./chosen";
import { BackLines } from "./BackLines";
import { HowItGoes, type How } from "./HowItGoes";

/** One page before many go back: who goes, what is not ready, and how. */
export function HandBack({ plan }: { plan: BackPlan }) {
  const router = useRouter();
  const { act, busy, problem, fields } = useAct();
  const before = useChosenBefore();
  const [own, setOwn] = useState<ReadonlySet<string> | null>(null);
  const chosen = own ?? firstChosen(plan.lines, before);
  const [shown, setShown] = useState<BackLine | null>(null);
  const [how, setHow] = useState<How>(() => ({
    outcome:
      plan.lines.some((line) => line.outcome !== null) || !plan.mayRevise ? "draft" : "final",
    due: plan.suggestedDue,
    when: "now",
    at: plan.suggestedAt,
    hold: plan.hold,
    message: "",
    scores: "now",
    scoresAt: plan.suggestedAt,
    tellScore: false,
    asked: { more: null, parts: [] },
  }));
  const going = plan.lines.filter((line) => chosen.has(line.pieceId));
  const unready = going.filter((line) => !isReady(line.gaps));
  const choose = (ids: readonly string[], on: boolean) =>
    setOwn((old) => {
      const next = new Set(old ?? chosen);
      for (const id of ids)
        if (on) next.add(id);
        else next.delete(id);
      return next;
    });
  async function send() {
    const batch = await act(() =>
      call(contract.makeHandBack, {
        body: {
          pieceIds: going.map((line) => line.pieceId),
          outcome: how.outcome,
          due: how.outcome === "final" ? null : how.due,
          at: how.when === "at" ? how.at : null,
          hold: how.hold,
          message: how.message,
          scores: how.scores,
          tellScore: how.tellScore,
          ...(how.outcome === "final" ? {} : how.asked),
          scoresAt: how.scores === "date" ? how.scoresAt : null,
        },
      }),
    );
    if (batch) router.push(`/hand-back?act=${batch.id}&handOut=${plan.lines[0]!.handOutId}`);
  }
  return (
    <>
      <p className="text-sm">
        <Link href={`/hand-outs/${plan.handOuts.find((h) => h.chosen)!.id}`} prefetch={false}>
          ← the hand-out’s sheet
        </Link>
      </p>
      <h1 className="mt-2">Hand back: {plan.title}</h1>
      <Sections plan={plan} />
      {plan.lines.length === 0 ? (
        <Empty title="No draft waits here">
          {plan.unread > 0
            ? `${sayCount(plan.unread, "piece")} came in and nothing is written yet.`
            : "All that is written is handed back."}
        </Empty>
      ) : (
        <div className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <BackLines
            lines={plan.lines}
            chosen={chosen}
            how={how}
            onChoose={choose}
            onShow={setShown}
          />
          <HowItGoes
            plan={plan}
            how={how}
            pieceIds={going.map((line) => line.pieceId)}
            going={going.length}
            unready={unready.length}
            busy={busy}
            problem={problem}
            fields={fields}
            onHow={(part) => setHow((old) => ({ ...old, ...part }))}
            onLeaveOut={() =>
              choose(
                unready.map((line) => line.pieceId),
                false,
              )
            }
            onSend={() => void send()}
          />
        </div>
      )}
      {shown ? <AsStudent line={shown} how={how} onClose={() => setShown(null)} /> : null}
    </>
  );
}

/** Those that were chosen on the sheet; else all that are ready and go at no other time. */
function firstChosen(
  lines: readonly BackLine[],
  before: ReadonlySet<string> | null,
): ReadonlySet<string> {
  const free = lines.filter((line) => line.goes === null && !isStopped(line.gaps));
  const wanted = before
    ? free.filter((line) => before.has(line.pieceId))
    : free.filter((line) => isReady(line.gaps) && line.outcome !== "keep");
  return new Set(wanted.map((line) => line.pieceId));
}

/** The sections that have the same work: added, they go in the same act, so that nobody hears first. */
function Sections({ plan }: { plan: BackPlan }) {
  const router = useRouter();
  if (plan.handOuts.length < 2) return null;
  const turn = (id: string) => {
    const chosen = plan.handOuts.filter((h) => (h.id === id ? !h.chosen : h.chosen));
    if (chosen.length > 0)
      router.replace(`/hand-back?${chosen.map((h) => `handOut=${h.id}`).join("&")}`);
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2" role="group" aria-label="Sections">
      <span className="label">sections</span>
      {plan.handOuts.map((handOut) => (
        <Chip key={handOut.id} chosen={handOut.chosen} onToggle={() => turn(handOut.id)}>
          {handOut.section}, {sayCount(handOut.drafts, "draft")}
        </Chip>
      ))}
    </div>
  );
}
