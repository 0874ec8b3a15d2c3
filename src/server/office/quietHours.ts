import { Invalid } from "@/core/refusals";
import type { QuietHours } from "@/core/time/quiet";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { recordEvent } from "../life/queries";

/** The hours in which the school sends nothing; null: there are none. */
export async function readQuietHours({ db, who }: ReadCall): Promise<QuietHours | null> {
  requireKind(who, "office");
  const [row] = await db<
    { from: string | null; until: string | null }[]
  >`select quiet_from as "from", quiet_until as until from school where id = ${who.schoolId}`;
  const { from, until } = row!;
  return from === null || until === null ? null : { from, until };
}

/** What is held already goes when it was said to. */
export async function setQuietHours(
  call: Call,
  { from, until }: { from: string | null; until: string | null },
): Promise<{ quiet: QuietHours | null }> {
  requireKind(call.who, "office");
  if ((from === null) !== (until === null))
    throw new Invalid({ until: "Give both times, or neither." });
  if (from !== null && from === until)
    throw new Invalid({ until: "They would never end, or never begin." });
  await call.tx`
    update school
    set quiet_from = ${from}, quiet_until = ${until}
    where id = ${call.who.schoolId}`;
  await recordEvent(call, {
    ...{ handOutId: null, pieceId: null, kind: "set the quiet hours", detail: { from, until } },
  });
  return { quiet: await readQuietHours(call) };
}
