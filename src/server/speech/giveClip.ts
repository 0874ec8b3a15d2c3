import type { ReadCall } from "../call";
import { giveBytes } from "../http/giveBytes";
import { requireClip } from "./clips";

/** A clip's sound, whole or a range of it: levelled, or (`as` left out) as it came. */
export async function giveClip(
  call: ReadCall,
  clipId: string,
  as: string,
  request: Request,
): Promise<Response> {
  const { sha256 } = await requireClip(call, clipId);
  const [sound] = await call.db<
    { levelled: boolean; rawSize: number; madeSize: number | null; mediaType: string }[]
  >`
    select made is not null and ${as === "levelled"} as levelled, octet_length(raw) as raw_size, octet_length(made) as made_size, media_type
    from sound
    where sha256 = ${sha256}`;
  const { levelled, rawSize, madeSize, mediaType } = sound!;
  return giveBytes(request, {
    size: levelled ? madeSize! : rawSize,
    mediaType: levelled ? "audio/webm" : mediaType,
    name: "voice",
    inline: true,
    etag: `${sha256.toString("hex")}${levelled ? "-levelled" : ""}`,
    // PostgreSQL reads only the part of an uncompressed value that is asked for, counted from 1.
    read: async function* (first, last) {
      const column = levelled ? call.db`made` : call.db`raw`;
      const [row] = await call.db<
        { bytes: Buffer }[]
      >`select substring(${column} from ${first + 1}::int for ${last - first + 1}::int) as bytes from sound where sha256 = ${sha256}`;
      yield row!.bytes;
    },
  });
}
