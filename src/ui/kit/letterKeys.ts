/** Whether a press of one sign alone is to be obeyed here: the person has not set it otherwise, and nothing is being written. */
export function obeysLetters(event: KeyboardEvent, writing: string): boolean {
  const set = document.querySelector<HTMLElement>("[data-letters]")?.dataset.letters;
  if (set !== undefined && set !== "on") return false;
  const plain = !event.ctrlKey && !event.metaKey && !event.altKey && !event.defaultPrevented;
  return plain && !(event.target as HTMLElement | null)?.closest(writing);
}
