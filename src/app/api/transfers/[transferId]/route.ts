import { contract } from "@/core/api/contract";
import { passTus } from "@/server/transfers/pass";

export const HEAD = passTus(contract.transferState);
export const PATCH = passTus(contract.transferMore);
export const DELETE = passTus(contract.stopTransfer);
