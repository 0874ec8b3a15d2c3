import { isTeacher, type Standing } from "@/core/access/access";
import { saidIs } from "@/core/looks/shown";
import { faultsOf } from "@/core/marks/mark";
import { itemOf, ON_TEXT, readPlace, type Place } from "@/core/marks/place";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import type { Call } from "../call";
import type { Db } from "../db/connection";
import { readContent, recordEvent } from "../life/queries";
import { ownClip, requirePieceClip } from "../speech/clips";

export type GivenShownMark = {
  id: string;
  kind: "note" | "insert" | "delete" | "replace";
  start: number;
  end: number;
  body: string;
  replacement: string;
  /** As it came in; null: on the text. */ place: unknown;
  clipId: string | null;
};

type On = {
  pieceId: string;
  handOutId: string;
  lookId: string | null;
  versionId: string | null;
  text: string;
  /** The files that it can stand on. */ items: readonly string[];
  readFirst: boolean;
  standing: Standing;
};

/** Someone to whom work is shown says something of it. The same id asked twice makes one. */
export async function sayOfShown(call: Call, on: On, given: GivenShownMark): Promise<void> {
  const { tx, who, now } = call;
  const place = placeOn(on, given);
  const clipId = await clipFor(call, on, given.clipId);
  const quote = place.on === "text" ? on.text.slice(given.start, given.end) : "";
  const { id, kind, start, end, body, replacement } = given;
  const stored = await tx`
    insert into look_mark ${tx({
      ...{ id, pieceId: on.pieceId, lookId: on.lookId, versionId: on.versionId, authorId: who.id },
      ...{ kind, startAt: start, endAt: end, quote, body, replacement, clipId, saidAt: now },
      place: place.on === "text" ? null : (tx.json(place as never) as never),
      shownAt: saidIs(on.standing, on.readFirst) === "shown" ? now : null,
    })}
    on conflict (id) do nothing
    returning id`;
  if (stored.length === 0) return;
  await recordEvent(call, {
    handOutId: on.handOutId,
    pieceId: on.pieceId,
    kind: on.lookId ? "said something in a look" : "said something in a display",
    detail: { lookMarkId: id },
  });
}

/** Where it stands. @throws Invalid, NotFound or Refused where it cannot be said there */
function placeOn(on: On, given: GivenShownMark): Place {
  const place = given.place === null ? ON_TEXT : readPlace(given.place);
  if (typeof place === "string") throw new Invalid({ place });
  const faults = faultsOf({ ...given, nature: "remark", place }, on.text.length);
  if (Object.keys(faults).length > 0) throw new Invalid(faults);
  const itemId = itemOf(place);
  if (itemId !== null && !on.items.includes(itemId)) throw new NotFound();
  if (on.lookId === null && given.kind !== "note")
    throw new Refused("Work that is handed in is not changed here; write a comment instead.");
  return place;
}

/** A student speaks for their own piece of the hand-out, a teacher as a teacher. */
async function clipFor(call: Call, on: On, clipId: string | null): Promise<string | null> {
  if (!clipId) return null;
  if (isTeacher(on.standing)) return ownClip(call, clipId);
  const [mine] = await call.tx<
    { id: string }[]
  >`select id from piece where hand_out_id = ${on.handOutId} and student_id = ${call.who.id}`;
  await requirePieceClip(call, mine?.id ?? "", clipId);
  return clipId;
}

/** The text of a version and the files handed in with it. */
export async function readVersionShown(db: Db, versionId: string) {
  const [content, items] = await Promise.all([
    readContent(db, versionId),
    db<{ itemId: string }[]>`select item_id from version_item where version_id = ${versionId}`,
  ]);
  return { ...content, items: items.map((i) => i.itemId) };
}
