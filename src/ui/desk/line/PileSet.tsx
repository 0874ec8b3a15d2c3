"use client";

import Link from "next/link";
import { Popover } from "radix-ui";
import { contract } from "@/core/api/contract";
import { QUEUE_ORDERS, type QueueOrder } from "@/core/desk/queueOrder";
import { call } from "../../client";
import { RadioLine } from "../../kit/Choices";
import { useDesk } from "../model";

const ORDER_WORDS: Readonly<Record<QueueOrder, string>> = {
  "hand-in": "as they came in",
  name: "by name",
  "late first": "late first",
  "rework first": "rework first",
  random: "shuffled",
};

/** What this pile is, how it is gone through, and what is shown of it. */
export function PileSet() {
  const { session, pile, about, own } = useDesk();
  const { title, across, anonymous, handOut, pace } = about;
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
    <Popover.Root>
      <Popover.Trigger
        className="min-h-7 max-w-48 cursor-pointer truncate border border-line-strong bg-raised px-2 hover:bg-sunk max-xl:max-w-28"
        title={title}
        aria-label={`this pile: ${ORDER_WORDS[order]}`}
      >
        this pile{order === "rework first" ? "" : `: ${ORDER_WORDS[order]}`}
        {unreadOnly ? ", not read" : ""}
        {anonymous ? ", names hidden" : ""} ▾
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-40 grid w-64 gap-2 border border-line-strong bg-raised p-3 text-sm shadow-lifted"
          aria-label="This pile"
        >
          <p>
            {title}
            {pace ? (
              <span className="block text-soft" title="Your pace here, and the rest from it">
                {pace}
              </span>
            ) : null}
          </p>
          <RadioLine
            label="order"
            value={order}
            onChange={pile.setOrder}
            choices={QUEUE_ORDERS.map((value) => ({ value, words: ORDER_WORDS[value] }))}
          />
          <div className="grid border-t border-line pt-2">
            <Tick on={unreadOnly} onTurn={() => pile.setUnreadOnly(!unreadOnly)}>
              only those not read
            </Tick>
            {anonymous === null ? null : (
              <Tick on={anonymous} onTurn={() => void hideNames()}>
                names hidden until handed back
              </Tick>
            )}
            <Tick on={own.strip === "moons"} onTurn={own.foldStrip}>
              the strip shows moons alone (<kbd>Shift N</kbd>)
            </Tick>
          </div>
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
  );
}

function Tick({
  on,
  onTurn,
  children,
}: {
  on: boolean;
  onTurn: () => void;
  children: React.ReactNode;
}) {
  return (
    <label className="flex min-h-8 items-center gap-2">
      <input type="checkbox" className="size-5 accent-tide" checked={on} onChange={onTurn} />
      <span>{children}</span>
    </label>
  );
}
