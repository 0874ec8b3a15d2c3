/** Reminders, the post room and the office's limits, as pages and routes give them. */
export const REMINDER_KINDS = ["handed out", "due soon", "handed back"] as const;
export type ReminderKind = (typeof REMINDER_KINDS)[number];
export type ReminderView = {
  id: string;
  kind: ReminderKind;
  pieceId: string;
  title: string;
  words: string;
  when: string;
  fresh: boolean;
};
export type RemindersView = {
  list: ReminderView[];
  fresh: number;
  choices: { kind: ReminderKind; inApp: boolean; byMail: boolean }[];
  address: string | null;
  /** Whether mail goes anywhere at all. */
  mail: boolean;
};
export type MailView = {
  id: string;
  to: string;
  subject: string;
  when: string;
  sent: boolean;
  /** Until when the quiet hours hold it; null: it went. */ held: string | null;
  /** It can be answered: a person wrote it. */ mayAnswer: boolean;
  text: string;
};
export type LimitsView = {
  fileMegabytes: number;
  pieceMegabytes: number;
  studentMegabytes: number;
  recordingMinutes: number;
};
