// Run in the jail: /work/<name> (HEIC) as /work/out.jpg, upright as the phone held it.
import { readFile, writeFile } from "node:fs/promises";
import decode from "heic-decode";
import sharp from "sharp";

const { width, height, data } = await decode({
  buffer: await readFile(`/work/${process.argv[2]}`),
});
if (width * height > 60_000_000) throw new Error(`too large: ${width} x ${height}`);
const image = sharp(Buffer.from(data.buffer, data.byteOffset, data.byteLength), {
  raw: { width, height, channels: 4 },
});
await writeFile(
  "/work/out.jpg",
  await image.flatten({ background: "#ffffff" }).jpeg({ quality: 92 }).toBuffer(),
);
