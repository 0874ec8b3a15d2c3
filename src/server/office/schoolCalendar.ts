import type { CalendarFile } from "@/core/formats/calendar/calendarFile";
import { Invalid, NotFound, Refused } from "@/core/refusals";
import { addDays, dayOf, type Day } from "@/core/time/zone";
import type {
  ClosureImport,
  ClosureImportLine,
  SchoolCalendarView,
} from "@/core/views/handOutViews";
import { requireKind } from "../access/standing";
import type { Call, ReadCall } from "../call";
import { readInThread } from "../threads/threads";
import { resyncSchool } from "../handouts/resync";

/** The school's own calendar, which the office keeps. */
export async function schoolCalendarView({ db, who }: ReadCall): Promise<SchoolCalendarView> {
  requireKind(who, "office");
  const [[school], terms, closures] = await Promise.all([
    db<
      { meetsOn: number[]; dayEnds: string }[]
    >`select meets_on, day_ends from school where id = ${who.schoolId}`,
    db<SchoolCalendarView["terms"]>`
      select id, name, starts_on, ends_on, source_id is not null as imported, (select count(*)::int from course where term_id = term.id) as used
      from term
      where school_id = ${who.schoolId}
      order by starts_on`,
    db<
      SchoolCalendarView["closures"]
    >`select id, name, starts_on, ends_on, source from closure where school_id = ${who.schoolId} order by starts_on, name`,
  ]);
  return {
    meetsOn: school!.meetsOn.map(Number),
    dayEnds: school!.dayEnds,
    terms: [...terms],
    closures: [...closures],
  };
}

export async function setSchoolDays(
  call: Call,
  given: { meetsOn: number[]; dayEnds: string },
): Promise<{ saved: true }> {
  const { tx, who } = call;
  requireKind(who, "office");
  if (given.meetsOn.length === 0)
    throw new Invalid({ meetsOn: "A school meets on at least one weekday." });
  await tx`update school set meets_on = ${[...new Set(given.meetsOn)].sort()}, day_ends = ${given.dayEnds} where id = ${who.schoolId}`;
  await resyncSchool(call);
  return { saved: true };
}

export type GivenDays = { name: string; startsOn: Day; endsOn: Day };

function check({ startsOn, endsOn }: GivenDays): void {
  if (endsOn < startsOn) throw new Invalid({ endsOn: "It would end before it begins." });
  if (Date.parse(endsOn) - Date.parse(startsOn) > 400 * 86_400_000)
    throw new Invalid({ endsOn: "This is longer than a year." });
}

export async function putTerm(
  call: Call,
  termId: string | null,
  given: GivenDays,
): Promise<{ id: string }> {
  const { tx, who, newId } = call;
  requireKind(who, "office");
  check(given);
  const [other] = await tx<
    { name: string }[]
  >`select name from term where school_id = ${who.schoolId} and id is distinct from ${termId} and starts_on <= ${given.endsOn} and ends_on >= ${given.startsOn} and source_id is null`;
  if (other) throw new Invalid({ startsOn: `It would overlap with the ${other.name} term.` });
  const id = termId ?? newId();
  const row = { name: given.name.trim(), startsOn: given.startsOn, endsOn: given.endsOn };
  if (termId) {
    const [known] =
      await tx`update term set ${tx(row)} where id = ${termId} and school_id = ${who.schoolId} returning id`;
    if (!known) throw new NotFound();
  } else await tx`insert into term ${tx({ id, schoolId: who.schoolId, ...row })}`;
  await resyncSchool(call);
  return { id };
}

export async function deleteTerm(call: Call, termId: string): Promise<{ deleted: true }> {
  const { tx, who } = call;
  requireKind(who, "office");
  const [term] = await tx<
    { name: string; used: number }[]
  >`select name, (select count(*)::int from course where term_id = term.id) as used from term where id = ${termId} and school_id = ${who.schoolId}`;
  if (!term) throw new NotFound();
  if (term.used > 0)
    throw new Refused(
      `The ${term.name} term has ${term.used} ${term.used === 1 ? "course" : "courses"}, so it stays.`,
    );
  await tx`delete from term where id = ${termId}`;
  return { deleted: true };
}

export async function putClosure(
  call: Call,
  closureId: string | null,
  given: GivenDays,
): Promise<{ id: string }> {
  const { tx, who, newId } = call;
  requireKind(who, "office");
  check(given);
  const id = closureId ?? newId();
  const row = { name: given.name.trim(), startsOn: given.startsOn, endsOn: given.endsOn };
  if (closureId) {
    const [known] =
      await tx`update closure set ${tx(row)} where id = ${closureId} and school_id = ${who.schoolId} returning id`;
    if (!known) throw new NotFound();
  } else await tx`insert into closure ${tx({ id, schoolId: who.schoolId, ...row })}`;
  await resyncSchool(call);
  return { id };
}

export async function deleteClosure(call: Call, closureId: string): Promise<{ deleted: true }> {
  requireKind(call.who, "office");
  const [gone] =
    await call.tx`delete from closure where id = ${closureId} and school_id = ${call.who.schoolId} returning id`;
  if (!gone) throw new NotFound();
  await resyncSchool(call);
  return { deleted: true };
}

type Dates = { name: string; startsOn: Day; endsOn: Day };

function whatIs(entry: Dates, stored: Dates | undefined): ClosureImportLine["what"] {
  if (!stored) return "new";
  const same =
    stored.name === entry.name &&
    stored.startsOn === entry.startsOn &&
    stored.endsOn === entry.endsOn;
  return same ? "unchanged" : "changed";
}

/** How far around today a calendar file is read. */
const WINDOW = { back: 400, ahead: 800 } as const;

/** Reads a calendar's file before anything is changed by it. */
export async function readClosures(
  { who, now }: ReadCall,
  { text, zones = [] }: { text: string; zones?: { name: string; zone: string }[] },
): Promise<CalendarFile> {
  requireKind(who, "office");
  const today = dayOf(now, who.zone);
  const window = { from: addDays(today, -WINDOW.back), to: addDays(today, WINDOW.ahead) };
  return readInThread(who, "readCalendarFile", [
    text,
    window,
    who.zone,
    Object.fromEntries(zones.map(({ name, zone }) => [name, zone])),
  ]);
}

/**
 * Holidays and closures from an iCalendar file. Without `chosen` it only says what is in the file and
 * what it would change; with it, the entries named are taken over, those of the same source that are in
 * the file no longer go, and the same file again changes nothing.
 */
export async function importClosures(
  call: Call,
  given: { source: string; chosen: string[] | null },
  file: CalendarFile,
): Promise<ClosureImport> {
  const { tx, who, newId } = call;
  requireKind(who, "office");
  const source = given.source.trim().slice(0, 120) || "calendar file";
  const known = await tx<
    (Dates & { id: string; sourceKey: string })[]
  >`select id, source_key, name, starts_on, ends_on from closure where school_id = ${who.schoolId} and source = ${source}`;
  const byKey = new Map(known.map((k) => [k.sourceKey, k]));
  const lines = file.entries.map((entry): ClosureImportLine => ({
    ...entry,
    what: whatIs(entry, byKey.get(entry.key)),
  }));
  const keys = new Set(lines.map((l) => l.key));
  const gone =
    file.faults.length > 0
      ? []
      : known
          .filter((k) => !keys.has(k.sourceKey))
          .map(({ id, name, startsOn }) => ({ id, name, startsOn }));
  if (given.chosen === null)
    return {
      ...{ source, lines, gone, applied: 0 },
      ...{ faults: file.faults, notes: file.notes, unknownZones: file.unknownZones },
    };
  // One event that cannot be read is said, and keeps the others from nothing.
  if (lines.length === 0 && file.faults.length > 0)
    throw new Refused(`Nothing was taken over: ${file.faults[0]}`);
  const chosen = new Set(given.chosen);
  const taken = lines.filter((line) => chosen.has(line.key));
  for (const line of taken.filter((l) => l.what !== "unchanged")) {
    await tx`
      insert into closure (id, school_id, name, starts_on, ends_on, source, source_key)
      values (${newId()}, ${who.schoolId}, ${line.name}, ${line.startsOn}, ${line.endsOn}, ${source}, ${line.key})
      on conflict (school_id, source, source_key) do update
      set name = excluded.name, starts_on = excluded.starts_on, ends_on = excluded.ends_on`;
  }
  const unwanted = [
    ...gone.map((g) => g.id),
    ...lines.filter((l) => !chosen.has(l.key)).flatMap((l) => byKey.get(l.key)?.id ?? []),
  ];
  if (unwanted.length > 0) await tx`delete from closure where id = any(${unwanted})`;
  await resyncSchool(call);
  return {
    source,
    lines: lines.map((l) => ({ ...l, what: chosen.has(l.key) ? "unchanged" : l.what })),
    gone: [],
    faults: file.faults,
    notes: file.notes,
    unknownZones: file.unknownZones,
    applied: taken.length,
  };
}
