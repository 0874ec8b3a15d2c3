import type { EarlierMark } from "@/core/views/deskViews";
import { inReadingOrder } from "../../marks/drawn";
import type { DeskModel } from "../model";
import type { DeskSession } from "../store/DeskSession";

/** Requests of earlier rounds that are ruled on, in the order of the work. */
const requestsOf = (session: DeskSession): EarlierMark[] =>
  inReadingOrder(session.store.getState().piece?.earlier ?? []).filter(
    (mark) => mark.nature === "request",
  );

const isOpen = (mark: EarlierMark) => mark.ruling === null;

export const noRequests = ({ session }: DeskModel): string | null =>
  requestsOf(session).some((one) => isOpen(one) || one.id === session.marking.getState().chosen)
    ? null
    : "No request of an earlier round waits for a word of yours.";

export const noneDone = ({ session }: DeskModel): string | null =>
  requestsOf(session).some((mark) => isOpen(mark) && mark.request === "done")
    ? null
    : "The student says of no other request that it is done.";

/** Rules on the request that is chosen, ruled on before or not; else on the first that waits. Goes on to the next that does. */
export function ruleOn({ session }: DeskModel, ruling: "settled" | "again"): void {
  const requests = requestsOf(session);
  const { chosen } = session.marking.getState();
  const waiting = requests.filter(isOpen);
  const mark = requests.find((one) => one.id === chosen) ?? waiting[0];
  if (!mark) return;
  session.store.rule(mark.id, ruling);
  const later = requests.slice(requests.indexOf(mark) + 1).find(isOpen);
  const next = later ?? waiting.find((one) => one.id !== mark.id);
  session.marking.choose(next?.id ?? null);
  if (next) bringIntoView(session, next.id);
}

/** Settles every request that the student says is done. */
export function settleDone({ session }: DeskModel): void {
  const done = requestsOf(session).filter((mark) => isOpen(mark) && mark.request === "done");
  for (const mark of done) session.store.rule(mark.id, "settled");
}

function bringIntoView(session: DeskSession, id: string): void {
  const margin = session.at("sheet")?.closest("[data-scroll]");
  margin?.querySelector(`[data-note="${CSS.escape(id)}"]`)?.scrollIntoView({ block: "nearest" });
}
