/** The languages a person can choose, each by its own name; an area has its messages in all of them. */
export const LANGUAGES = { en: "English", fr: "Français" } as const;
export type Language = keyof typeof LANGUAGES;
export const LANGUAGE_IDS = Object.keys(LANGUAGES) as Language[];

/** How dates, times and numbers are written: as in the parts of the world where schools have both (BCP 47). */
export const LOCALES: Readonly<Record<Language, string>> = { en: "en-GB", fr: "fr-CA" };
