import type { Announcements } from "@dnd-kit/core";

/**
 * What is said to a screen reader while something is moved, in words of the page: the library itself reads out ids.
 *
 * @param what the name of what is moved
 * @param where the name of a place it can be put
 */
export function sayDrag(
  what: (id: string) => string,
  where: (id: string) => string,
): { announcements: Announcements; screenReaderInstructions: { draggable: string } } {
  const over = (place: { id: string | number } | null, put: string) =>
    place ? `${put} ${where(String(place.id))}.` : "No place to put it here.";
  return {
    announcements: {
      onDragStart: ({ active }) => `Picked up: ${what(String(active.id))}.`,
      onDragOver: ({ over: place }) => over(place, "Over"),
      onDragEnd: ({ active, over: place }) =>
        `${what(String(active.id))}: ${over(place, "put on")}`,
      onDragCancel: ({ active }) => `${what(String(active.id))} stays where it was.`,
    },
    screenReaderInstructions: {
      draggable:
        "Space picks it up, the arrow keys move it, Space puts it down, Escape leaves it where it was.",
    },
  };
}
