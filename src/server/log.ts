import pino from "pino";

/**
 * One line of JSON per event, with the request's id. Nothing that a person wrote goes in: no body, no
 * text, no name; ids, routes, states and durations only.
 */
export const log = pino({
  level: process.env.ALMANAC_LOG ?? "info",
  base: undefined,
  timestamp: pino.stdTimeFunctions.isoTime,
});
