/**
 * Waits for an answer, but not for ever.
 *
 * @param patience in milliseconds
 * @returns what was answered, or null when it was refused or nothing came in time
 */
export async function inTime<T>(answer: PromiseLike<T>, patience: number): Promise<T | null> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<null>((resolve) => {
    timer = setTimeout(() => resolve(null), patience);
  });
  const answered = Promise.resolve(answer).catch(() => null);
  const result = await Promise.race([answered, late]);
  clearTimeout(timer);
  return result;
}
