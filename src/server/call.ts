import type { Language } from "@/core/language/languages";
import type { PersonKind } from "@/core/access/access";
import type { Db, Tx } from "./db/connection";

/** A signed-in person, with what every use-case needs to know of their school. */
export type Person = {
  id: string;
  kind: PersonKind;
  name: string;
  called: string;
  schoolId: string;
  zone: string;
  /** The language they have chosen, where an area has more than one. */ language?: Language;
  /** Keeps the school's people, terms and days: the office, or a teacher whose own school it is. */
  keepsSchool?: boolean;
  /** Signed in with a password that someone else gave: to be changed before anything else. */
  mustChange?: boolean;
};

/** What a use-case is called with. Time and ids come in, so that the same call can be made again in a test. */
export type ReadCall = { db: Db; who: Person; now: Date };
export type Call = { tx: Tx; db: Tx; who: Person; now: Date; newId: () => string };
