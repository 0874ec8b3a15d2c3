/** Points with their sign, as a mark or a comment carries them; the database checks the same. */
export const SIGNED_POINTS = /^[-+]?\d{1,4}(\.\d{1,3})?$/;
export const POINTS_FAULT = "Points are a number such as 1, -0.5 or +2.";
