import { sayGoesBack } from "@/core/handingBack/say";
import { sayTime } from "@/core/time/words";
import type { HandOutSheet } from "@/core/views/overviewViews";
import type { ReadCall } from "../call";

const DAY_MS = 86_400_000;

/** Acts of handing back on a hand-out that wait, or went within a day. Index: hand_back_batch_piece_piece. */
export async function actsOn(
  { db, who, now }: ReadCall,
  handOutId: string,
): Promise<HandOutSheet["going"]> {
  const rows = await db<{ batchId: string; goesAt: Date; waiting: number; gone: number }[]>`
    select
      batch.id as batch_id, batch.goes_at,
      count(*) filter (where of_batch.waits)::int as waiting,
      count(of_batch.hand_back_id)::int as gone
    from piece
    join hand_back_batch_piece of_batch on of_batch.piece_id = piece.id
    join hand_back_batch batch on batch.id = of_batch.batch_id
    where piece.hand_out_id = ${handOutId} and batch.goes_at > ${new Date(now.getTime() - DAY_MS)}
    group by batch.id
    order by batch.goes_at, batch.id`;
  return rows
    .filter(({ waiting, gone }) => waiting + gone > 0)
    .map(({ batchId, goesAt, waiting, gone }) =>
      waiting > 0
        ? { batchId, words: sayGoesBack(goesAt, now, who.zone), pieces: waiting, waits: true }
        : {
            batchId,
            words: `went back ${sayTime(goesAt, now, who.zone)}`,
            pieces: gone,
            waits: false,
          },
    );
}
