import { sayTime } from "@/core/time/words";
import type { TickLine } from "@/core/views/overviewViews";
import type { ReadCall } from "../call";
import { queueView } from "./queue";

/**
 * Everything that waits for a teacher, piece by piece across all sections: what is in (rework and the oldest first), and
 * questions. What is read without its name has its number.
 *
 * @throws NotFound for whoever teaches nothing
 */
export async function tickList(call: ReadCall): Promise<TickLine[]> {
  const { now, who } = call;
  const [waiting, asking] = await Promise.all([
    queueView(call, { handOutId: null, pile: "waiting" }),
    queueView(call, { handOutId: null, pile: "questions" }),
  ]);
  const asks = new Set(asking.map(({ pieceId }) => pieceId));
  const also = asking.filter(({ pieceId }) => !waiting.some((one) => one.pieceId === pieceId));
  return [...waiting, ...also].map((item) => {
    const { pieceId, student, handOut, handOutId, section, moon, drafted, handedInAt } = item;
    return {
      ...{ pieceId, student, handOut, handOutId, section, moon, drafted },
      came: handedInAt && sayTime(new Date(handedInAt), now, who.zone),
      isIn: moon.state === "handed_in",
      asks: asks.has(pieceId),
    };
  });
}
