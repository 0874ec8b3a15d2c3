import MailComposer from "nodemailer/lib/mail-composer";
import nodemailer from "nodemailer";
import { readPlain } from "./plain";
import { NotFound } from "@/core/refusals";
import { sayTime } from "@/core/time/words";
import type { MailView } from "@/core/views/reminderViews";
import type { ReadCall } from "../call";
import type { Db, Sql } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { settings } from "../settings";

export type Letter = {
  personId: string;
  address: string;
  name: string;
  subject: string;
  text: string;
  /** Not before then: when the quiet hours end; absent: at once. */ goesAt?: Date;
  /** Where an answer comes back to; absent: nobody answers a machine. */ replyTo?: string;
};

/**
 * Writes a message as it goes out (MIME, RFC 5322) into the post room. Where SMTP is set up, a job takes it on from there;
 * otherwise it stays, to be read in the demo.
 */
export async function post(
  db: Db,
  { personId, address, name, subject, text, goesAt, replyTo }: Letter,
  now: Date,
  newId: () => string,
): Promise<string> {
  const { mailFrom, publicOrigin, smtp } = settings();
  const id = newId();
  const composer = new MailComposer({
    from: { name: "Almanac", address: mailFrom },
    to: { name, address },
    subject,
    text,
    date: now,
    messageId: `<${id}@${mailFrom.split("@").at(-1)}>`,
    ...(replyTo ? { replyTo } : {}),
    headers: {
      // Nobody's machine should answer a machine (RFC 3834); what a person wrote is none.
      ...(replyTo ? {} : { "Auto-Submitted": "auto-generated" }),
      ...(publicOrigin ? { "List-Unsubscribe": `<${publicOrigin}/reminders>` } : {}),
    },
  });
  const mime = await composer.compile().build();
  await db`
    insert into mail (id, person_id, address, subject, mime, made_at, goes_at)
    values (${id}, ${personId}, ${address}, ${subject}, ${mime}, ${now}, ${goesAt ?? now})`;
  if (smtp) await enqueue(db, { kind: "mail", key: id, payload: { id } }, goesAt ?? now);
  return id;
}

/** The job: hands one message to the school's own mail server. */
export async function sendMail(sql: Sql, { id }: Record<string, string>, now: Date): Promise<void> {
  const { smtp, mailFrom } = settings();
  const [row] = await sql<
    { address: string; mime: Buffer; sentAt: Date | null }[]
  >`select address, mime, sent_at from mail where id = ${id!}`;
  if (!row || row.sentAt || !smtp) return;
  await nodemailer
    .createTransport(smtp)
    .sendMail({ envelope: { from: mailFrom, to: [row.address] }, raw: row.mime });
  await sql`update mail set sent_at = ${now} where id = ${id!}`;
}

/** In the demo everyone reads their own messages, and the office all. Elsewhere there is no such page. */
export async function listMail({ db, who, now }: ReadCall): Promise<MailView[]> {
  requireDemo();
  const rows = await db<
    {
      id: string;
      name: string;
      address: string;
      subject: string;
      mime: Buffer;
      madeAt: Date;
      goesAt: Date | null;
      sentAt: Date | null;
      answers: boolean;
    }[]
  >`
    select mail.id, person.name, mail.address, mail.subject, mail.mime, mail.made_at, mail.goes_at, mail.sent_at,
      mail.person_id = ${who.id} and exists (select from letter_to where letter_to.mail_id = mail.id) as answers
    from mail
    join person on person.id = mail.person_id
    where person.school_id = ${who.schoolId} and (mail.person_id = ${who.id} or ${who.kind === "office"})
    order by mail.made_at desc, mail.id desc
    limit 100`;
  return rows.map((r) => ({
    id: r.id,
    to: `${r.name} <${r.address}>`,
    subject: r.subject,
    when: sayTime(r.madeAt, now, who.zone),
    sent: r.sentAt !== null,
    held: r.goesAt && r.goesAt > now ? sayTime(r.goesAt, now, who.zone) : null,
    mayAnswer: r.answers,
    text: readPlain(r.mime),
  }));
}

export async function giveMail({ db, who }: ReadCall, mailId: string): Promise<Response> {
  requireDemo();
  const [row] = await db<{ mime: Buffer }[]>`
    select mail.mime
    from mail
    join person on person.id = mail.person_id
    where mail.id = ${mailId} and person.school_id = ${who.schoolId} and (mail.person_id = ${who.id} or ${who.kind === "office"})`;
  if (!row) throw new NotFound();
  return new Response(new Uint8Array(row.mime), {
    headers: {
      "content-type": "message/rfc822",
      "content-disposition": 'attachment; filename="message.eml"',
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
    },
  });
}

function requireDemo(): void {
  if (settings().mode === "production") throw new NotFound();
}
