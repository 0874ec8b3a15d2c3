import type { CurrentRoster, RosterPlan } from "@/core/roster/rosterPlan";
import { writeOneRoster } from "@/core/roster/writeOneRoster";
import { sayPlace, type Roster } from "@/core/roster/roster";
import { NotFound, Refused } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import { dayOf } from "@/core/time/zone";
import type { RosterReport, RosterRunView } from "@/core/views/handOutViews";
import { requireKind, requireOnSection } from "../access/standing";
import { readBlob, storeBlob } from "../blobs/blobs";
import type { Call, Person, ReadCall } from "../call";
import { database, type Db } from "../db/connection";
import { log } from "../log";
import { readInThread } from "../threads/threads";
import { uuidv7 } from "uuidv7";
import { applyPlan } from "./apply";
import { sampleRecords } from "./records";
import { currentRoster, rosterOf } from "./current";
import { pack } from "../reading/rosterPackage";
import type { GivenRoster } from "../reading/rosterFile";

const LINES_SHOWN = 400;
const PROBLEMS_SHOWN = 200;
/** A run that has said nothing for so long was ended with its server; its transaction never happened. */
const SILENT_AFTER = 60_000;

type Run = {
  id: string;
  schoolId: string;
  madeBy: string;
  by: string;
  name: string;
  sectionId: string | null;
  sha256: Buffer;
  complete: boolean;
  state: RosterRunView["state"];
  report: RosterReport;
  progress: string;
  madeAt: Date;
  changedAt: Date;
};

/** A roster as it came, with what it would change. */
export type LookedRoster = GivenRoster & { report: RosterReport };

/**
 * Looks at a roster (a OneRoster zip, or a plain table) and says what it would change; nothing is
 * changed or kept yet. The office's is for the whole school, a section's owner's for that section.
 */
export async function lookAtRoster(
  { db, who, now }: ReadCall,
  given: GivenRoster,
): Promise<LookedRoster> {
  await requireRoster(db, who, given.sectionId);
  const { report } = await look(db, who, now, given);
  return { ...given, report };
}

async function requireRoster(db: Db, who: Person, sectionId: string | null): Promise<void> {
  if (sectionId) await requireOnSection(db, who, sectionId, "section.setUp");
  else requireKind(who, "office");
}

/** Keeps a roster that was looked at, so that it can be applied as it is. */
export async function keepRun(call: Call, given: LookedRoster): Promise<RosterRunView> {
  const { tx, who, now, newId } = call;
  await requireRoster(tx, who, given.sectionId);
  const { report } = given;
  const id = newId();
  const sha256 = await storeBlob(tx, given.bytes, "application/octet-stream", now);
  await tx`
    insert into roster_run (id, school_id, made_by, name, section_id, sha256, complete, state, report, made_at, changed_at)
    values (${id}, ${who.schoolId}, ${who.id}, ${given.name.slice(0, 150) || "table"}, ${given.sectionId}, ${sha256}, ${given.complete}, 'checked', ${tx.json(report as never)}, ${now}, ${now})`;
  return readRun(call, id);
}

/** The same, with the roster that the school records system has now. */
export async function lookAtRecords(call: ReadCall): Promise<LookedRoster> {
  requireKind(call.who, "office");
  const [school] = await call.db<
    { name: string }[]
  >`select name from school where id = ${call.who.schoolId}`;
  const bytes = await sampleRecords.fetchRoster(
    { id: call.who.schoolId, name: school!.name, zone: call.who.zone },
    call.now,
  );
  return lookAtRoster(call, { name: sampleRecords.name, bytes, sectionId: null, complete: true });
}

async function look(
  db: Db,
  who: Person,
  now: Date,
  given: GivenRoster,
): Promise<{ plan: RosterPlan; report: RosterReport }> {
  const current = await currentRoster(db, who.schoolId);
  const { read, encoding, plan } = await readInThread(who, "lookAtRosterFile", [
    given,
    current,
    dayOf(now, who.zone),
  ]);
  const problems = [...read.problems, ...(read.problems.length === 0 ? plan.problems : [])];
  if (
    read.roster.sections.length > 0 &&
    current.terms.length === 0 &&
    read.roster.terms.length === 0
  )
    problems.push({
      file: given.name,
      row: null,
      column: null,
      words: "The school has no term yet. Type one, or send one in academicSessions.csv.",
    });
  return {
    plan,
    report: {
      counts: plan.counts,
      lines: plan.lines.slice(0, LINES_SHOWN),
      problems: problems
        .slice(0, PROBLEMS_SHOWN)
        .map((p) => ({ where: sayPlace(p), words: p.words })),
      problemCount: problems.length,
      notes: [...read.notes, ...knownByName(read.roster, plan, current, given.sectionId)].slice(
        0,
        60,
      ),
      encoding,
    },
  };
}

/** Whom a list of names alone found among the school's people: another of the same name would be taken for them. */
function knownByName(
  { people }: Roster,
  { known }: RosterPlan,
  { enrolments }: CurrentRoster,
  sectionId: string | null,
): string[] {
  const here = new Set(enrolments.filter((e) => e.sectionId === sectionId).map((e) => e.personId));
  return people.flatMap(({ ref, email, name, schoolName }) => {
    const id = known.people.get(ref);
    return email === null && schoolName !== null && id && !here.has(id)
      ? [
          `${name} is in this school already, as ${schoolName}, and is taken for the same person. If this is someone else, write another name.`,
        ]
      : [];
  });
}

async function findRun(db: Db, who: Person, runId: string): Promise<Run> {
  const [run] = await db<Run[]>`
    select roster_run.*, person.name as by
    from roster_run
    join person on person.id = roster_run.made_by
    where roster_run.id = ${runId} and roster_run.school_id = ${who.schoolId}`;
  // The office sees every run of its school, a teacher their own.
  if (!run || (who.kind !== "office" && run.madeBy !== who.id)) throw new NotFound();
  return run;
}

export async function readRun({ db, who, now }: ReadCall, runId: string): Promise<RosterRunView> {
  return view(await findRun(db, who, runId), now, who.zone);
}

export async function listRuns({ db, who, now }: ReadCall): Promise<RosterRunView[]> {
  requireKind(who, "office");
  const runs = await db<
    Run[]
  >`select roster_run.*, person.name as by from roster_run join person on person.id = roster_run.made_by where roster_run.school_id = ${who.schoolId} order by made_at desc limit 12`;
  return runs.map((run) => view(run, now, who.zone));
}

function view(run: Run, now: Date, zone: string): RosterRunView {
  const silent = run.state === "applying" && now.getTime() - run.changedAt.getTime() > SILENT_AFTER;
  const changes = Object.values(run.report.counts).reduce(
    (sum, c) => sum + c.new + c.changed + c.gone,
    0,
  );
  return {
    id: run.id,
    name: run.name,
    state: silent ? "failed" : run.state,
    report: run.report,
    progress: silent ? "It was interrupted and nothing was changed. Apply it again." : run.progress,
    changes,
    when: sayTime(run.madeAt, now, zone),
    by: run.by,
  };
}

/**
 * Begins to apply a run that was looked at. It goes on by itself, all in one transaction; `readRun` says
 * how far it is. The school is looked at again first: if it has changed since, what is applied is what
 * the file means now.
 */
export async function applyRun(call: Call, runId: string): Promise<RosterRunView> {
  const { tx, who, now } = call;
  const run = await findRun(tx, who, runId);
  if (run.sectionId) await requireOnSection(tx, who, run.sectionId, "section.setUp");
  if (run.report.problemCount > 0)
    throw new Refused(
      "This file has problems, so nothing of it is applied. Mend them and send it again.",
    );
  const [mine] = await tx`
    update roster_run
    set state = 'applying', progress = 'Beginning', changed_at = ${now}
    where id = ${runId} and (state in ('checked', 'failed') or (state = 'applying' and changed_at < ${new Date(now.getTime() - SILENT_AFTER)}))
    returning id`;
  if (!mine)
    throw new Refused(
      run.state === "applied"
        ? "This was applied already. Send the file again to compare it anew."
        : "This is being applied just now.",
    );
  return readRun(call, runId);
}

/** The work that `applyRun` began, on a transaction of its own; never throws. */
export async function carryOut(who: Person, runId: string, now: Date): Promise<void> {
  const db = database();
  const say = async (state: Run["state"], progress: string, report?: RosterReport) => {
    await db`update roster_run set state = ${state}, progress = ${progress}, changed_at = now(), report = coalesce(${report ? db.json(report as never) : null}, report) where id = ${runId}`;
  };
  try {
    const run = await findRun(db, who, runId);
    const parts: Buffer[] = [];
    for await (const part of readBlob(db, run.sha256)) parts.push(part);
    await say("applying", "Reading the file again");
    let report: RosterReport | undefined;
    await db.begin(async (tx) => {
      // One roster at a time for a school: two at once would each plan without the other.
      await tx`select id from school where id = ${who.schoolId} for update`;
      const looked = await look(tx, who, now, {
        name: run.name,
        bytes: Buffer.concat(parts),
        sectionId: run.sectionId,
        complete: run.complete,
      });
      if (looked.report.problemCount > 0)
        throw new Refused(
          `The school has changed since this was looked at: ${looked.report.problems[0]!.words}`,
        );
      report = looked.report;
      await applyPlan({ tx, db: tx, who, now, newId: uuidv7 }, looked.plan, run.name, (words) =>
        say("applying", words),
      );
    });
    await say("applied", "Applied", report);
  } catch (error) {
    const words =
      error instanceof Refused ? error.reason : "Something went wrong. Nothing was changed.";
    if (!(error instanceof Refused))
      log.error(
        {
          code: (error as { code?: string }).code,
          stack: (error as Error).stack?.split("\n").slice(1, 6),
        },
        "a roster could not be applied",
      );
    await say("failed", words).catch(() => {});
  }
}

/** The school's people and classes as a OneRoster 1.2 package. */
export async function exportRoster({ db, who, now }: ReadCall): Promise<Buffer> {
  requireKind(who, "office");
  const [school] = await db<{ name: string }[]>`select name from school where id = ${who.schoolId}`;
  return pack(
    writeOneRoster(
      rosterOf(await currentRoster(db, who.schoolId)),
      { id: who.schoolId, name: school!.name },
      dayOf(now, who.zone).slice(0, 4),
    ),
  );
}
