import type { LedgerGrades } from "@/core/views/ledgerViews";

/** @example sayGrade({ percent: "91.0", name: "A" }) // "A 91.0" */
export function sayGrade(grade: LedgerGrades[string] | undefined): string {
  if (!grade?.percent) return "none yet";
  return grade.name ? `${grade.name} ${grade.percent}` : grade.percent;
}
