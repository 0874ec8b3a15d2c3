/** A grade in words. @example sayGrade({ percent: "84.2", name: "B" }) // "B (84.2 %)" */
export const sayGrade = ({
  percent,
  name,
}: {
  percent: string | null;
  name: string | null;
}): string => {
  if (percent === null) return "no grade yet";
  return name ? `${name} (${percent} %)` : `${percent} %`;
};
