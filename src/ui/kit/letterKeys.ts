const SET = "[data-letters]";

/** What was set for letters holds at once, for what listens beside the page too. */
export function setLettersHere(letters: string): void {
  const told = document.querySelector<HTMLElement>(SET);
  if (told) told.dataset.letters = letters;
}

/** Whether a press of one sign alone is to be obeyed here: the person has not set it otherwise, and nothing is being written. */
export function obeysLetters(event: KeyboardEvent, writing: string): boolean {
  const set = document.querySelector<HTMLElement>(SET)?.dataset.letters;
  if (set !== undefined && set !== "on") return false;
  const plain = !event.ctrlKey && !event.metaKey && !event.altKey && !event.defaultPrevented;
  return plain && !(event.target as HTMLElement | null)?.closest(writing);
}
