import { contract } from "@/core/api/contract";
import { takeFeedbackBack } from "@/server/handingBack/handBack";
import { change } from "@/server/http/serve";

export const POST = change(contract.takeFeedbackBack, (call, { params }) =>
  takeFeedbackBack(call, params.pieceId!),
);
