import { contract } from "@/core/api/contract";
import { passTus } from "@/server/transfers/pass";

export const POST = passTus(contract.beginTransfer);
