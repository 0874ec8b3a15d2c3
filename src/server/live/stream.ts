import { requireKind } from "../access/standing";
import type { ReadCall } from "../call";
import { connect } from "../db/connection";
import { settings } from "../settings";
import { makeHub, type Hub } from "./hub";

/** A stream ends by itself after so long, in seconds; the page opens it again, and is asked anew who it is. */
export const LONGEST = 600;
/** Proxies cut what is silent; so often something is said, in milliseconds. */
const BREATH = 20_000;
/** What moves at once is told at once: so long more is waited for, in milliseconds. */
const TOGETHER = 300;
/** Of one person at once; a further one ends the oldest. A browser opens few connections to one place. */
const MOST_OF_ONE = 6;

declare global {
  // Development reloads modules; the listening connection must outlive them.
  var almanacHub: Hub | undefined;
}

const hub = (): Hub =>
  (globalThis.almanacHub ??= makeHub(() => connect(settings().databaseUrl, 1)));

const open = new Map<string, Set<() => void>>();

/**
 * What moves in a teacher's sections, as it moves: server-sent events (WHATWG HTML, 9.2) named "moved", without a word
 * of what it was: the page asks again, as itself.
 *
 * @param seconds after which it ends, at most
 */
export async function liveStream(
  { db, who }: ReadCall,
  { seconds, signal }: { seconds: number; signal: AbortSignal },
): Promise<Response> {
  requireKind(who, "teacher");
  const rows = await db<{ id: string }[]>`
    select section_id as id from section_teacher where person_id = ${who.id}`;
  const sectionIds = rows.map(({ id }) => id);
  const text = new TextEncoder();
  let end = () => {};
  const body = new ReadableStream<Uint8Array>({
    start(stream) {
      const say = (words: string) => stream.enqueue(text.encode(`${words}\n\n`));
      let soon: ReturnType<typeof setTimeout> | undefined;
      const leave = hub().follow(sectionIds, () => {
        soon ??= setTimeout(() => {
          soon = undefined;
          say("event: moved\ndata: {}");
        }, TOGETHER);
      });
      const breath = setInterval(() => say(": here"), BREATH);
      const last = setTimeout(() => end(), Math.min(Math.max(seconds, 0), LONGEST) * 1000);
      let ended = false;
      end = () => {
        if (ended) return;
        ended = true;
        leave();
        clearInterval(breath);
        clearTimeout(soon);
        clearTimeout(last);
        forget(who.id, end);
        // The page may have gone first.
        try {
          stream.close();
        } catch {}
      };
      remember(who.id, end);
      signal.addEventListener("abort", end);
      say(`retry: 3000\nevent: open\ndata: {}`);
    },
    cancel: () => end(),
  });
  return new Response(body, {
    headers: {
      "content-type": "text/event-stream; charset=utf-8",
      // Packed, it would be kept back until there is enough of it.
      "cache-control": "no-store, no-transform",
      "x-accel-buffering": "no",
    },
  });
}

function remember(personId: string, end: () => void): void {
  const own = open.get(personId) ?? new Set();
  open.set(personId, own.add(end));
  if (own.size > MOST_OF_ONE) own.values().next().value?.();
}

function forget(personId: string, end: () => void): void {
  const own = open.get(personId);
  own?.delete(end);
  if (own?.size === 0) open.delete(personId);
}
