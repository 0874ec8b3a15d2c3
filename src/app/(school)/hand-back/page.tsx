import Link from "next/link";
import { isId } from "@/core/ids";
import { readBatch } from "@/server/handingBack/batches";
import { handBackPlan } from "@/server/handingBack/plan";
import { pageCall, view } from "@/server/page";
import { Became } from "@/ui/handingBack/Became";
import { HandBack } from "@/ui/handingBack/HandBack";
import { Page } from "@/ui/kit/Page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Hand back" };

type Query = { handOut?: string | string[]; act?: string };

const MOST_HAND_OUTS = 12;

/** Handing back many at once: what goes and what is not ready; and, of an act that was made, what became of it. */
export default async function HandBackPage({ searchParams }: { searchParams: Promise<Query> }) {
  const call = await pageCall("teacher");
  const { handOut, act } = await searchParams;
  const handOuts = [handOut ?? []].flat().filter(isId).slice(0, MOST_HAND_OUTS);
  if (isId(act)) {
    const batch = await view(readBatch(call, act));
    return (
      <Page width="reading">
        <Became first={batch} handOutId={handOuts[0] ?? null} />
      </Page>
    );
  }
  if (handOuts.length === 0)
    return (
      <Page width="reading">
        <Empty title="Nothing is chosen to hand back">
          Begin from a hand-out’s sheet, or from the drafts on <Link href="/today">Today</Link>.
        </Empty>
      </Page>
    );
  const plan = await view(handBackPlan(call, handOuts));
  return (
    <Page width="table">
      <HandBack key={handOuts.join()} plan={plan} />
    </Page>
  );
}
