import Link from "next/link";
import { redirect } from "next/navigation";
import type { OwnSettings } from "@/core/desk/settings";
import { USUAL_HOLD } from "@/core/handingBack/outcome";
import type { QueueOrder } from "@/core/desk/queueOrder";
import { leanComment } from "@/core/comments/schema";
import { readBank } from "@/server/comments/bank";
import { readSettings } from "@/server/marking/desk/setting";
import { readWays } from "@/server/marking/desk/ways";
import { deskPiece } from "@/server/marking/desk/deskPiece";
import { deskQueue, QUEUE_PILES, type QueuePile } from "@/server/overview/queue";
import { isId } from "@/core/ids";
import { pageCall, view } from "@/server/page";
import { Desk, type DeskSettings } from "@/ui/desk/Desk";
import { Page } from "@/ui/kit/Page";
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

type Query = { pile?: string; handOut?: string; piece?: string; from?: string };
type Kept = OwnSettings["desk.place"];

export default async function DeskPage({ searchParams }: { searchParams: Promise<Query> }) {
  const call = await pageCall("teacher");
  const { pile: asked, handOut, piece, from } = await searchParams;
  const pile = QUEUE_PILES.find((name) => name === asked) ?? "waiting";
  const handOutId = isId(handOut) ? handOut : null;
  const readQueue = () => view(deskQueue(call, { handOutId, pile }));
  const nowhere = !asked && !handOut && !piece;
  const [kept, asking] = await Promise.all([readSettings(call), nowhere ? null : readQueue()]);
  const last = readPlace(kept["desk.place"]);
  // Come without a pile, one goes on where one was, on whatever machine that was.
  if (nowhere && last)
    redirect(
      `/desk?pile=${last.pile}${last.handOut ? `&handOut=${last.handOut}` : ""}&piece=${last.piece}`,
    );
  const queue = asking ?? (await readQueue());
  if (queue.items.length === 0) {
    return (
      <Page width="reading">
        <Empty title="Nothing lies on the Desk">
          There is nothing in this pile ({TITLES[pile]}). <Link href="/today">Today</Link> shows
          where there is.
        </Empty>
      </Page>
    );
  }
  const here = last && last.pile === pile && last.handOut === handOutId ? last : null;
  const start =
    queue.items.find((item) => item.pieceId === (piece ?? here?.piece)) ?? queue.items[0]!;
  const [first, bank, ways] = await Promise.all([
    view(deskPiece(call, start.pieceId)),
    readBank(call),
    handOutId ? readWays(call, handOutId) : null,
  ]);
  const about = handOutId ? `${start.handOut}, ${start.section}` : "all sections";
  const across = [
    ...(ways?.rubricId
      ? [{ href: `/desk/criterion?handOut=${handOutId}`, words: "by criterion" }]
      : []),
    ...(ways?.questions
      ? [{ href: `/desk/answers?handOut=${handOutId}`, words: "by question" }]
      : []),
  ];
  const settings: DeskSettings = {
    keys: kept["desk.keys"] ?? {},
    stamps: kept["desk.stamps"] ?? ["Units?", "Show how"],
    order: kept["desk.order"] ?? ("rework first" satisfies QueueOrder),
    hold: kept["desk.hold"] ?? USUAL_HOLD,
    strip: kept["desk.strip"] ?? null,
    margin: kept["desk.margin"] ?? null,
    letters: kept.letters ?? "on",
    scroll: here?.piece === start.pieceId ? here.scroll : 0,
  };
  return (
    <div className="flex min-h-dvh flex-col md:h-dvh md:min-h-0">
      <Desk
        key={`${pile} ${handOut ?? ""}`}
        queue={queue}
        first={first}
        bank={bank.map(leanComment)}
        title={handOutId ? `${start.section} · ${TITLES[pile]}` : `${about} · ${TITLES[pile]}`}
        pile={pile}
        handOut={handOutId}
        anonymous={ways?.anonymous ?? null}
        across={across}
        me={call.who.name}
        back={backTo(handOutId, from === "hand-back", start.handOut)}
        settings={settings}
      />
    </div>
  );
}

/** The way back from here: to what one came from. */
function backTo(handOutId: string | null, handingBack: boolean, title: string) {
  if (!handOutId) return { href: "/today", words: "Today" };
  if (handingBack) return { href: `/hand-back?handOut=${handOutId}`, words: "handing back" };
  return { href: `/hand-outs/${handOutId}`, words: title };
}

function readPlace(value: Kept | undefined): Kept | null {
  return value && QUEUE_PILES.some((p) => p === value.pile) ? value : null;
}
