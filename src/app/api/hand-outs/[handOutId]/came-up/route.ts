import { contract } from "@/core/api/contract";
import { read } from "@/server/http/serve";
import { readCameUp } from "@/server/sectionNotes/cameUp";

export const GET = read(contract.cameUp, (call, { params }) => readCameUp(call, params.handOutId!));
