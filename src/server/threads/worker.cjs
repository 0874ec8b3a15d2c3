/* eslint-disable @typescript-eslint/no-require-imports -- a thread begins as a plain program; tsx reads the core's TypeScript */
require("tsx/cjs");
const workerpool = require("workerpool");
const { compareKept } = require("../../core/text/kept.ts");

/** What may be asked of a thread, by name; each is a function of the core that takes and gives plain values. */
workerpool.worker({ compareKept });
