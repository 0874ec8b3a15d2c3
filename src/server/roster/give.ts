import { dayOf } from "@/core/time/zone";
import type { ReadCall } from "../call";
import { exportRoster } from "./runs";

/** The school's roster as a download. */
export async function giveRoster(call: ReadCall): Promise<Response> {
  const zip = await exportRoster(call);
  return new Response(new Uint8Array(zip), {
    headers: {
      "content-type": "application/zip",
      "content-disposition": `attachment; filename="roster-${dayOf(call.now, call.who.zone)}.zip"`,
      "x-content-type-options": "nosniff",
      "cache-control": "no-store",
    },
  });
}
