import { database } from "../db/connection";
import { ownOrigin } from "../http/serve";
import { readFeed } from "./feeds";

/** A feed as calendars fetch it: no session, the address is the key. */
export async function giveFeed(secret: string, now: Date, request: Request): Promise<Response> {
  const text = await readFeed(database(), secret, now, ownOrigin(request));
  return new Response(text, {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": 'inline; filename="almanac.ics"',
      "cache-control": "private, max-age=300",
      "x-robots-tag": "noindex",
      "referrer-policy": "no-referrer",
    },
  });
}
