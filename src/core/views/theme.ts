/** What a person can choose of the look; `system`: as the device has it. */
export const THEMES = ["system", "day", "night"] as const;
export type Theme = (typeof THEMES)[number];

/** The theme that a cookie names; anything else is the system's. */
export const themeOf = (kept: string | undefined): Theme =>
  THEMES.find((theme) => theme === kept) ?? "system";
