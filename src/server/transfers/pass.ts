import { isId } from "@/core/ids";
import { NotFound } from "@/core/refusals";
import type { Endpoint } from "@/core/api/endpoint";
import { database } from "../db/connection";
import { passing } from "../http/serve";
import { HttpProblem } from "../problem";
import { cleanFileName } from "@/core/items/kinds";
import { beginTransfer, requireOwnTransfer, tus } from "./transfers";

/** The tus protocol behind Almanac's own door: who, whose and how much come first, then its package answers. */
export function passTus(entry: Endpoint) {
  return passing(entry, async ({ request, params, who, change }) => {
    if (entry.method !== "POST") {
      await requireOwnTransfer(database(), who, params.transferId!);
      return tus(params.transferId!).handleWeb(request);
    }
    const given = readMetadata(request.headers.get("upload-metadata") ?? "");
    const size = Number(request.headers.get("upload-length"));
    const { id = "", pieceId = "", partId = "", name = "file" } = given;
    if (![id, pieceId, partId].every(isId)) throw new NotFound();
    if (!Number.isSafeInteger(size) || size < 0)
      throw new HttpProblem(400, "The upload does not say how large it is (Upload-Length).");
    await change((call) =>
      beginTransfer(call, id, { pieceId, partId, name: cleanFileName(name), size }),
    );
    return tus(id).handleWeb(request);
  });
}

/** `name base64,name base64` as the protocol writes it. */
function readMetadata(header: string): Record<string, string> {
  return Object.fromEntries(
    header.split(",").flatMap((pair) => {
      const [key, value] = pair.trim().split(" ");
      return key
        ? [
            [
              key,
              Buffer.from(value ?? "", "base64")
                .toString("utf8")
                .slice(0, 1000),
            ],
          ]
        : [];
    }),
  );
}
