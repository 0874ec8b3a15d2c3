/**
 * Integrated loudness by a measurement that is not the program's: ITU-R BS.1770-4 written from the recommendation (filters of
 * annex 1, tables 1 and 2, for 48 kHz; blocks of 400 ms that overlap by 75 %; gates at -70 LUFS and 10 LU under the
 * mean of what passes), coefficients from memory.
 *
 * @param samples one channel at 48 kHz, from -1 to 1
 * @returns LUFS; -Infinity where nothing passes the first gate
 */
export function integratedLoudness(samples: Float64Array): number {
  const shelf = biquad(
    samples,
    [1.53512485958697, -2.69169618940638, 1.19839281085285],
    [-1.69065929318241, 0.73248077421585],
  );
  const weighted = biquad(shelf, [1, -2, 1], [-1.99004745483398, 0.99007225036621]);
  const block = 19_200;
  const powers: number[] = [];
  for (let at = 0; at + block <= weighted.length; at += block / 4) {
    let sum = 0;
    for (let n = at; n < at + block; n += 1) sum += weighted[n]! ** 2;
    powers.push(sum / block);
  }
  const loud = (power: number) => -0.691 + 10 * Math.log10(power);
  const mean = (all: readonly number[]) => all.reduce((a, b) => a + b, 0) / all.length;
  const heard = powers.filter((p) => loud(p) > -70);
  if (heard.length === 0) return -Infinity;
  const gate = loud(mean(heard)) - 10;
  return loud(mean(heard.filter((p) => loud(p) > gate)));
}

function biquad(
  x: Float64Array,
  [b0, b1, b2]: readonly [number, number, number],
  [a1, a2]: readonly [number, number],
): Float64Array {
  const y = new Float64Array(x.length);
  for (let n = 0; n < x.length; n += 1)
    y[n] =
      b0 * x[n]! +
      b1 * (x[n - 1] ?? 0) +
      b2 * (x[n - 2] ?? 0) -
      a1 * (y[n - 1] ?? 0) -
      a2 * (y[n - 2] ?? 0);
  return y;
}
