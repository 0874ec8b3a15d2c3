import { contract } from "@/core/api/contract";
import { correctGrade } from "@/server/grades/freeze";
import { change } from "@/server/http/serve";

export const POST = change(contract.correctGrade, (call, { params, body }) =>
  correctGrade(call, { sectionId: params.sectionId!, studentId: params.studentId! }, body),
);
