import { contract } from "@/core/api/contract";
import type { GradeScale } from "@/core/grades/rules";
import { change } from "@/server/http/serve";
import { setGradeScales } from "@/server/office/gradeScales";

export const PUT = change(contract.setGradeScales, (call, { body }) =>
  setGradeScales(call, body as { scales: GradeScale[] }),
);
