import { momentOf } from "../../marks/TimeNotes";
import type { DeskSession } from "../store/DeskSession";

const BACK_SECONDS = 5;

/** The recording on the sheet that plays; else the one that was begun; else the first. */
function media(session: DeskSession): HTMLMediaElement | null {
  const found = session.at("sheet")?.querySelectorAll<HTMLMediaElement>("[data-player]") ?? [];
  const all = [...found];
  return all.find((p) => !p.paused) ?? all.find((p) => p.currentTime > 0) ?? all[0] ?? null;
}

const itemOf = (player: HTMLMediaElement) => player.closest<HTMLElement>("[data-item]");

export const noRecording = (session: DeskSession): string | null =>
  media(session) ? null : "There is no recording in this piece.";

/** A note on the moment where it is. */
export function noteMoment(session: DeskSession): void {
  const player = media(session);
  const itemId = player && itemOf(player)?.dataset.item;
  if (!player || !itemId) return;
  player.pause();
  session.marking.composeAt({ on: "time", itemId, from: momentOf(player), to: null });
}

/** Begins a stretch at the moment where it is, or ends the one that is begun. */
export function markStretch(session: DeskSession): void {
  const player = media(session);
  const itemId = player && itemOf(player)?.dataset.item;
  if (player && itemId && session.marking.stretch(itemId, momentOf(player))) player.pause();
}

export function playOrStop(session: DeskSession): void {
  const player = media(session);
  if (player?.paused) void player.play().catch(() => undefined);
  else player?.pause();
}

export function playBack(session: DeskSession): void {
  const player = media(session);
  if (player) player.currentTime = Math.max(0, player.currentTime - BACK_SECONDS);
}
