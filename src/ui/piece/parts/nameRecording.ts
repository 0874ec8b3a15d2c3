import { sayClock } from "../../time";

/** What a recording made here is called. @example nameRecording("sound", "audio/webm", "") // "Recording 14.05.webm" */
export function nameRecording(kind: "sound" | "film", mediaType: string, label: string): string {
  const stamp = sayClock(new Date()).replace(":", ".");
  const words = label.trim() || (kind === "film" ? "Film" : "Recording");
  return `${words} ${stamp}.${endingOf(kind, mediaType)}`;
}

function endingOf(kind: "sound" | "film", mediaType: string): string {
  if (!mediaType.includes("mp4")) return "webm";
  return kind === "film" ? "mp4" : "m4a";
}
