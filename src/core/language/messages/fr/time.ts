import type { TimeWords } from "../en/time";

export const time: TimeWords = {
  yesterday: "hier",
  today: "aujourd’hui",
  tomorrow: "demain",
  near: "{day} à {clock}",
  far: "{day} à {clock}",
};
