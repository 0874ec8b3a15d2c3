/* eslint-disable @typescript-eslint/no-require-imports -- a thread begins as a plain program; tsx reads our TypeScript */
require("tsx/cjs");
const workerpool = require("workerpool");

/** What may be asked of a thread, by name. */
workerpool.worker({ ...require("./heavy.ts") });
