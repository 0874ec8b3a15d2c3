import type { GradeRules } from "@/core/grades/rules";
import { contract } from "@/core/api/contract";
import { setGradeRules } from "@/server/grades/grades";
import { change } from "@/server/http/serve";

export const PUT = change(contract.setGradeRules, (call, { params, body }) =>
  setGradeRules(call, params.sectionId!, body as GradeRules),
);
