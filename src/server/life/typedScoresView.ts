import { typedScores, type TypedScore } from "@/core/scores/typedScores";
import { sayTime } from "@/core/time/words";
import type { TypedScoreView } from "@/core/views/views";
import type { ReadCall } from "../call";

/** The scores of a piece as they were typed, for its teachers alone, the first first. Index: score_typed_piece. */
export async function typedScoresView(
  { db, who, now }: Pick<ReadCall, "db" | "who" | "now">,
  pieceId: string,
): Promise<TypedScoreView[]> {
  const all = await db<TypedScore[]>`
    select score_typed.round_number as round, score_typed.typed, person.name as by, score_typed.typed_at as at
    from score_typed
    join person on person.id = score_typed.typed_by
    where score_typed.piece_id = ${pieceId}
    order by score_typed.id`;
  return typedScores(all).map(({ round, typed, by, at }) => ({
    ...{ round, typed, by, when: sayTime(at, now, who.zone) },
  }));
}
