/** Days that are near, and a time of one. */
export const time = {
  yesterday: "yesterday",
  today: "today",
  tomorrow: "tomorrow",
  near: "{day} {clock}",
  far: "{day}, {clock}",
};
export type TimeWords = typeof time;
