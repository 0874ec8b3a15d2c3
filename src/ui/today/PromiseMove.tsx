"use client";

import { contract } from "@/core/api/contract";
import type { ReadingPlanView } from "@/core/views/overviewViews";
import { call } from "../client";
import { Button } from "../kit/Button";
import { useAct } from "../useAct";

/** Moves a promise to when the plan keeps it. Students see the new one where the work stands. */
export function PromiseMove({ outlook }: { outlook: ReadingPlanView["outlooks"][number] }) {
  const { act, busy, problem } = useAct();
  const { better, handOutId, title, done } = outlook;
  if (!better) return null;
  return (
    <>
      <Button
        small
        disabled={busy}
        aria-label={`Promise ${title} for ${done} instead`}
        onClick={() =>
          void act(() =>
            call(contract.movePromise, { params: { handOutId }, body: { promised: better } }),
          )
        }
      >
        Promise it for {done}, {better.slice(11)}
      </Button>
      {problem ? <span className="text-ember">▲ {problem}</span> : null}
    </>
  );
}
