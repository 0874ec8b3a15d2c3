import { uuidv7 } from "uuidv7";
import { afterQuiet, quietHours } from "@/core/time/quiet";
import { sayMoment } from "@/core/time/words";
import type { ReminderKind } from "@/core/views/reminderViews";
import type { Sql, Tx } from "../db/connection";
import { post } from "../mail/postRoom";
import { settings } from "../settings";

/** What holds for who has chosen nothing: all in the app; by mail what should not be missed. */
export const CHOICES: Record<ReminderKind, { inApp: boolean; byMail: boolean }> = {
  "handed out": { inApp: true, byMail: false },
  "due soon": { inApp: true, byMail: true },
  "handed back": { inApp: true, byMail: true },
};

const DAY = 86_400_000;
/** So many in one go, so that a school of thousands is not reminded in one long breath; the rest comes right after. */
export const AT_ONCE = 200;
type Found = {
  personId: string;
  pieceId: string;
  kind: ReminderKind;
  about: string;
  name: string;
  called: string;
  email: string | null;
  zone: string;
  quietFrom: string | null;
  quietUntil: string | null;
  title: string;
  due: Date;
  outcome: string | null;
  choice: { inApp: boolean; byMail: boolean } | null;
};

/**
 * Reminds of what was handed out, is due within a day, or came back, within the last two days: each thing once, however
 * often this runs and whoever runs it. What someone switched off is noted as said, and not said.
 */
export async function sweepReminders(sql: Sql, now: Date): Promise<number> {
  return sql.begin(async (tx) => {
    // One at a time; another sweep has just done it.
    const [{ free } = { free: false }] = await tx<
      { free: boolean }[]
    >`select pg_try_advisory_xact_lock(7262003) as free`;
    if (!free) return 0;
    return remind(tx, await findThings(tx, now), now);
  }) as Promise<number>;
}

/** First what can be meant at all, by its dates; only of these is the standing worked out. Indexes: hand_out_opens, hand_out_due, piece_own_due, round_due, hand_back_at. */
function findThings(tx: Tx, now: Date): Promise<Found[]> {
  const since = new Date(now.getTime() - 2 * DAY);
  const until = new Date(now.getTime() + DAY);
  return tx<Found[]>`
    with soon as (
      select piece.id from hand_out join piece on piece.hand_out_id = hand_out.id where hand_out.opens_at between ${since} and ${now}
      union
      select piece.id from hand_out join piece on piece.hand_out_id = hand_out.id where hand_out.due_at between ${now} and ${until}
      union
      select id from piece where own_due_at between ${now} and ${until}
      union
      select piece_id from round where due_at between ${now} and ${until}
    ),
    standing as materialized (
      -- By piece ("offset 0"): the planner would otherwise work out the standing of every piece there is.
      select one.*
      from soon
      cross join lateral (select * from piece_standing where id = soon.id offset 0) one
    ),
    thing as (
      select id as piece_id, 'handed out' as kind, 'opened' as about, null::text as outcome
      from standing
      where opens_at between ${since} and ${now} and awaited
      union all
      select id, 'due soon', to_char(due at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI'), null
      from standing
      where due between ${now} and ${until} and opens_at <= ${now} and (awaited or state in ('to_revise', 'reworking'))
      union all
      select hand_back.piece_id, 'handed back', hand_back.id::text, hand_back.outcome
      from hand_back
      where hand_back.handed_back_at between ${since} and ${now}
        and not exists (select from hand_back_withdrawn where hand_back_id = hand_back.id)
    )
    select
      person.id as person_id, thing.piece_id, thing.kind, thing.about, thing.outcome, person.name, person.called, person.email, school.time_zone as zone, school.quiet_from, school.quiet_until, standing.title, standing.due,
      (select jsonb_build_object('inApp', in_app, 'byMail', by_mail) from reminder_choice where person_id = person.id and kind = thing.kind) as choice
    from (
      select *
      from thing
      where not exists (select from reminder where reminder.piece_id = thing.piece_id and reminder.kind = thing.kind and reminder.about = thing.about)
    ) thing
    cross join lateral (select * from piece_standing where id = thing.piece_id offset 0) standing
    join person on person.id = standing.student_id
    join school on school.id = person.school_id
    order by thing.piece_id
    limit ${AT_ONCE}`;
}

/** Notes them all at once, and writes to those who want it by mail. @returns how many were new */
async function remind(tx: Tx, things: readonly Found[], now: Date): Promise<number> {
  if (things.length === 0) return 0;
  const chosen = things.map((thing) => ({ thing, choice: thing.choice ?? CHOICES[thing.kind] }));
  const rows = chosen.map(({ thing, choice }) => ({
    id: uuidv7(),
    personId: thing.personId,
    pieceId: thing.pieceId,
    kind: thing.kind,
    about: thing.about,
    at: now,
    inApp: choice.inApp,
  }));
  const fresh = await tx<{ pieceId: string; kind: string; about: string }[]>`
    insert into reminder ${tx(rows)}
    on conflict (piece_id, kind, about) do nothing
    returning piece_id, kind, about`;
  const isFresh = new Set(fresh.map((f) => `${f.pieceId} ${f.kind} ${f.about}`));
  for (const { thing, choice } of chosen)
    if (
      choice.byMail &&
      thing.email &&
      isFresh.has(`${thing.pieceId} ${thing.kind} ${thing.about}`)
    )
      await post(tx, { ...letterOf(thing, thing.email), goesAt: goesAt(thing, now) }, now, uuidv7);
  return fresh.length;
}

/** Nothing rings in the night. */
function goesAt({ quietFrom, quietUntil, zone }: Found, now: Date): Date {
  return afterQuiet(now, quietHours(quietFrom, quietUntil), zone);
}

/** Says what there is, and no word of what a teacher wrote: mail is read by more than its addressee. */
function letterOf(
  { personId, pieceId, kind, name, called, zone, title, due, outcome }: Found,
  address: string,
) {
  const origin = settings().publicOrigin;
  const where = origin ? `\n${origin}/work/${pieceId}\n` : "\nYou find it in My work.\n";
  // A day by its name and date: mail is read on another day than it was written.
  const when = sayMoment(due, zone);
  const [subject, line] = {
    "handed out": [`New: ${title}`, `“${title}” was handed out to you. It is due ${when}.`],
    "due soon": [`Due ${when}: ${title}`, `“${title}” is due ${when}.`],
    "handed back": [
      `Handed back: ${title}`,
      outcome === "revise"
        ? `“${title}” came back to revise. It is due again ${when}.`
        : `“${title}” was handed back.`,
    ],
  }[kind] as [string, string];
  return {
    personId,
    address,
    name,
    subject,
    text: `Hello ${called},\n\n${line}\n${where}\nYou can switch these reminders off, each kind by itself, on the page Reminders.\n`,
  };
}
