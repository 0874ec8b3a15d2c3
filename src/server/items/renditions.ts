import path from "node:path";
import { blobToFile, fileToBlob } from "../blobs/temporary";
import type { Call } from "../call";
import type { Sql } from "../db/connection";
import { enqueue } from "../jobs/jobs";
import { inFolder, ProgramMissing } from "../programs/jail";
import { lookAtMedia, lookAtPdf, makePages, makePlayable, takeStill } from "../programs/tools";

/** What can be made from a file so that it is shown: pages of an office document, a recording to wind, a still of a film. */
export type RenditionKind = "pages" | "playable" | "still";
type Made =
  | { file: string; mediaType: string; about: Record<string, number> }
  | { unneeded: true }
  | { reason: string };

/** Asks for what a file needs; the same file is worked on once, whoever hands it in. */
export async function planRenditions(
  { tx: db, who, now }: Pick<Call, "tx" | "who" | "now">,
  sha256: Buffer,
  { needs, ending }: { needs: readonly RenditionKind[]; ending: string },
): Promise<void> {
  const source = sha256.toString("hex");
  for (const kind of needs) {
    const [fresh] = await db`
      insert into rendition (source, kind, changed_at)
      values (${sha256}, ${kind}, ${now})
      on conflict (source, kind) do nothing
      returning source`;
    if (fresh)
      await enqueue(
        db,
        {
          kind: "rendition",
          key: `${kind} ${source}`,
          payload: { kind, sha256: source, ending },
          ownerId: who.id,
        },
        now,
      );
  }
}

/** The job: fetches the file, lets the program make the other, keeps it. Running it again changes nothing. */
export async function makeRendition(
  sql: Sql,
  { kind, sha256, ending }: Record<string, string>,
  now: Date,
): Promise<void> {
  const source = Buffer.from(sha256!, "hex");
  const [waiting] =
    await sql`select source from rendition where source = ${source} and kind = ${kind!} and state = 'waiting'`;
  if (!waiting) return;
  await inFolder(async (folder) => {
    const name = `source${/^\.[a-z0-9]{1,8}$/.test(ending ?? "") ? ending : ""}`;
    await blobToFile(sql, source, path.join(folder, name));
    const made = await make(kind as RenditionKind, folder, name).catch((error: unknown): Made => {
      if (error instanceof ProgramMissing)
        return { reason: "The program that would show it is not installed on this server." };
      throw error;
    });
    await sql.begin(async (tx) => {
      if ("reason" in made) {
        await tx`update rendition set state = 'failed', reason = ${made.reason}, changed_at = ${now} where source = ${source} and kind = ${kind!}`;
        return;
      }
      const blob =
        "unneeded" in made
          ? { sha256: source }
          : await fileToBlob(tx, path.join(folder, made.file), made.mediaType, now);
      const about = "unneeded" in made ? {} : made.about;
      await tx`
        update rendition
        set state = 'made', made = ${blob.sha256}, about = ${tx.json(about)}, changed_at = ${now}
        where source = ${source} and kind = ${kind!}`;
    });
  });
}

async function make(kind: RenditionKind, folder: string, name: string): Promise<Made> {
  if (kind === "pages") {
    const file = await makePages(folder, name);
    const looked = file ? await lookAtPdf(folder, file) : null;
    return file && looked && "pages" in looked
      ? { file, mediaType: "application/pdf", about: { pages: looked.pages } }
      : {
          reason:
            "This document could not be turned into pages. It is kept as it is, and can be fetched.",
        };
  }
  const media = await lookAtMedia(folder, name);
  if (!media)
    return {
      reason: "This recording cannot be played here. It is kept as it is, and can be fetched.",
    };
  if (kind === "still") {
    const file = await takeStill(folder, name, media.seconds);
    return file
      ? { file, mediaType: "image/jpeg", about: {} }
      : { reason: "No picture could be taken from this film." };
  }
  const made = await makePlayable(folder, name, media);
  if (!made) return { unneeded: true };
  const seconds = (await lookAtMedia(folder, made.file))?.seconds ?? media.seconds ?? 0;
  return { ...made, about: { seconds } };
}
