import { NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import { REMINDER_KINDS, type ReminderKind, type RemindersView } from "@/core/views/reminderViews";
import type { Call, ReadCall } from "../call";
import { mailGoes } from "../settings";
import { CHOICES } from "./sweep";

const WORDS: Record<ReminderKind, string> = {
  "handed out": "was handed out",
  "due soon": "is due within a day",
  "handed back": "was handed back",
};

/** A student's reminders of the last weeks; fresh are those since the visit before this one. Index: reminder_person. */
export async function listReminders({ db, who, now }: ReadCall): Promise<RemindersView> {
  if (who.kind !== "student") throw new NotFound();
  const [rows, choices, [visit], [person]] = await Promise.all([
    db<{ id: string; kind: ReminderKind; pieceId: string; title: string; at: Date }[]>`
      select reminder.id, reminder.kind, reminder.piece_id, standing.title, reminder.at
      from reminder
      join piece_standing standing on standing.id = reminder.piece_id
      where reminder.person_id = ${who.id} and reminder.in_app and reminder.at > ${new Date(now.getTime() - 21 * 86_400_000)}
      order by reminder.at desc, reminder.id desc
      limit 50`,
    db<
      { kind: ReminderKind; inApp: boolean; byMail: boolean }[]
    >`select kind, in_app, by_mail from reminder_choice where person_id = ${who.id}`,
    db<{ before: Date | null }[]>`select before from visit where person_id = ${who.id}`,
    db<{ email: string | null }[]>`select email from person where id = ${who.id}`,
  ]);
  const since = visit?.before ?? null;
  const list = rows.map((r) => ({
    id: r.id,
    kind: r.kind,
    pieceId: r.pieceId,
    title: r.title,
    words: WORDS[r.kind],
    when: sayTime(r.at, now, who.zone),
    fresh: since === null || r.at > since,
  }));
  return {
    list,
    fresh: list.filter((r) => r.fresh).length,
    choices: REMINDER_KINDS.map((kind) => ({
      kind,
      ...CHOICES[kind],
      ...choices.find((c) => c.kind === kind),
    })),
    address: person?.email ?? null,
    mail: mailGoes(),
  };
}

export async function setReminders(
  call: Call,
  { kind, inApp, byMail }: { kind: ReminderKind; inApp: boolean; byMail: boolean },
): Promise<RemindersView> {
  if (call.who.kind !== "student") throw new NotFound();
  await call.tx`
    insert into reminder_choice (person_id, kind, in_app, by_mail)
    values (${call.who.id}, ${kind}, ${inApp}, ${byMail})
    on conflict (person_id, kind) do update
    set in_app = excluded.in_app, by_mail = excluded.by_mail`;
  return listReminders(call);
}

const SAME_VISIT_MS = 20 * 60_000;

/** Notes that a student looks at My work; what is new is counted from the visit before. Looking again soon is the same visit. */
export async function noteVisit({ db, who, now }: ReadCall): Promise<void> {
  await db`
    insert into visit (person_id, at, before)
    values (${who.id}, ${now}, null)
    on conflict (person_id) do update
    set before = case when visit.at < ${new Date(now.getTime() - SAME_VISIT_MS)} then visit.at else visit.before end, at = ${now}`;
}
