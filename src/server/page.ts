import { isId } from "@/core/ids";
import { cookies } from "next/headers";
import { connection } from "next/server";
import { notFound, redirect } from "next/navigation";
import { cache } from "react";
import { FIRST_PAGE, OWN_PAGE, type PersonKind } from "@/core/access/access";
import { isWall } from "@/core/handouts/checkDates";
import type { Day } from "@/core/time/zone";
import { NotFound } from "@/core/refusals";
import { COOKIE, whoIs } from "./auth/sessions";
import type { Person, ReadCall } from "./call";
import { database } from "./db/connection";
import { gathering } from "./db/gathering";
import { now } from "./settings";

/** Who is signed in, asked for once per request; null: nobody. */
export const visitor = cache(async (): Promise<Person | null> => {
  await connection();
  const token = (await cookies()).get(COOKIE)?.value ?? null;
  return whoIs(database(), token, now());
});

/** The frame and the page ask in one go. */
const gathered = cache(() => gathering(database()));

/**
 * The way in for every page: who is asking comes first. Signed out leads to the sign-in page; another
 * kind of person is told that there is nothing here.
 */
export async function pageCall(kind?: PersonKind, { whileOwed = false } = {}): Promise<ReadCall> {
  const who = await visitor();
  if (!who) redirect("/sign-in");
  // Whoever was given a password chooses their own before anything else opens.
  if (who.mustChange && !whileOwed) redirect(OWN_PAGE);
  const may = !kind || who.kind === kind || (kind === "office" && who.keepsSchool);
  if (!may) notFound();
  return { db: gathered(), who, now: now() };
}

/** A view for a page; what is not there, or not theirs, is the same page to everyone. */
export async function view<T>(reading: Promise<T>): Promise<T> {
  try {
    return await reading;
  } catch (error) {
    if (error instanceof NotFound) notFound();
    throw error;
  }
}

/** A path parameter that must be an id, before anything is asked of the database. */
export function idFrom(text: string): string {
  if (!isId(text)) notFound();
  return text;
}

/** What an address says under a name: once, short, and without what no text may hold; "": nothing. */
export function textFrom(asked: string | string[] | undefined, most = 200): string {
  const text = Array.isArray(asked) ? (asked[0] ?? "") : (asked ?? "");
  return text.replaceAll("\0", "").slice(0, most);
}

/** A day of the address (YYYY-MM-DD); null: none that there is. */
export const dayFrom = (text: string | string[] | undefined): Day | null =>
  typeof text === "string" && /^\d{4}-\d\d-\d\d$/.test(text) && isWall(`${text}T12:00`)
    ? text
    : null;

export const firstPage = (who: Person): string => FIRST_PAGE[who.kind];
