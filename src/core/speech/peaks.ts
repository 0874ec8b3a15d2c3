/**
 * The heights of a waveform: of each of `count` equal stretches the loudest sample, from 0 to 100 of the loudest of all,
 * so that a quiet voice is seen as well as heard.
 */
export function peaksOf(samples: Int16Array, count: number): number[] {
  const loudest = Array.from({ length: count }, (_, n) => {
    let most = 0;
    const end = Math.floor(((n + 1) * samples.length) / count);
    for (let k = Math.floor((n * samples.length) / count); k < end; k += 1)
      most = Math.max(most, Math.abs(samples[k]!));
    return most;
  });
  const top = Math.max(...loudest);
  return loudest.map((n) => (top === 0 ? 0 : Math.round((n / top) * 100)));
}
