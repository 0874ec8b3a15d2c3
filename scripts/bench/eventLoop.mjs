// Loaded into the measured application: each second, how long its event loop was held up at most (ms), as a line of a file.
import { appendFileSync } from "node:fs";
import { monitorEventLoopDelay } from "node:perf_hooks";

const file = process.env.ALMANAC_BENCH_LOOP;
if (file) {
  const delay = monitorEventLoopDelay({ resolution: 10 });
  delay.enable();
  setInterval(() => {
    appendFileSync(file, `${Date.now()} ${(delay.max / 1e6).toFixed(1)}\n`);
    delay.reset();
  }, 1000).unref();
}
