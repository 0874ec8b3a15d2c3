import type { Ink } from "@/core/marks/place";

/** The look of a note, and of the words it stands on, in an ink of its own; its word still says what it is. */
export const noteInk = (ink: Ink | null | undefined): string | undefined =>
  ink ? `note-ink-${ink}` : undefined;
