import type { Call } from "../call";
import { HttpProblem } from "../problem";

/**
 * Runs a change at most once for a person's Idempotency-Key, and answers a repetition with the first
 * answer. The record rides in the change's own transaction: both are there, or neither. A repetition
 * that arrives while the first still runs waits for it at the unique key.
 *
 * @throws HttpProblem 422 when the key was used for another request
 */
export async function once<T>(
  { tx, who, now }: Pick<Call, "tx" | "who" | "now">,
  { key, requestHash }: { key: string; requestHash: Buffer },
  run: () => Promise<T>,
): Promise<T> {
  const [claimed] = await tx`
    insert into idempotency (person_id, key, request_hash, created_at)
    values (${who.id}, ${key}, ${requestHash}, ${now})
    on conflict (person_id, key) do nothing
    returning key`;
  if (!claimed) {
    const [kept] = await tx<{ requestHash: Buffer; body: T }[]>`
      select request_hash, body
      from idempotency
      where person_id = ${who.id} and key = ${key}`;
    if (!kept || !requestHash.equals(kept.requestHash))
      throw new HttpProblem(422, "This Idempotency-Key was used for another request.");
    return kept.body;
  }
  const answer = await run();
  await tx`
    update idempotency
    set status = 200, body = ${JSON.stringify(answer)}::text::json
    where person_id = ${who.id} and key = ${key}`;
  return answer;
}
