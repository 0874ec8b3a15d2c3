import Link from "next/link";
import { readBank } from "@/server/comments/bank";
import { deskPiece } from "@/server/feedback/deskPiece";
import { QUEUE_PILES, queueView, type QueuePile } from "@/server/overview/queue";
import { isId, pageCall, view } from "@/server/page";
import { Desk } from "@/ui/desk/Desk";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Desk" };

const TITLES: Record<QueuePile, string> = {
  waiting: "all that is in",
  new: "new in",
  again: "in again",
  late: "late in",
  drafted: "drafted, not handed back",
  questions: "questions waiting",
  awaited: "not in yet",
  all: "every piece",
};

type Query = { pile?: string; handOut?: string; piece?: string };

export default async function DeskPage({ searchParams }: { searchParams: Promise<Query> }) {
  const call = await pageCall("teacher");
  const { pile: asked, handOut, piece } = await searchParams;
  const pile = QUEUE_PILES.find((name) => name === asked) ?? "waiting";
  const queue = await view(queueView(call, { handOutId: isId(handOut) ? handOut : null, pile }));
  if (queue.length === 0) {
    return (
      <div className="mx-auto w-full max-w-3xl px-6 py-16">
        <Empty title="Nothing lies on the Desk">
          There is nothing in this pile ({TITLES[pile]}). <Link href="/today">Today</Link> shows where there is.
        </Empty>
      </div>
    );
  }
  const start = queue.find((item) => item.pieceId === piece) ?? queue[0]!;
  const [first, bank] = await Promise.all([view(deskPiece(call, start.pieceId)), readBank(call)]);
  const about = isId(handOut) ? `${start.handOut}, ${start.section}` : "all sections";
  return (
    <div className="flex h-[calc(100dvh-3.3125rem)] min-h-0 flex-col max-lg:h-auto">
      <Desk key={`${pile} ${handOut ?? ""}`} queue={queue} first={first} bank={bank} title={`${about} · ${TITLES[pile]}`} back={isId(handOut) ? { href: `/hand-outs/${handOut}`, words: start.handOut } : { href: "/today", words: "Today" }} />
    </div>
  );
}
