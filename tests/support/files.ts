import { Readable } from "node:stream";
import { execFile } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import sharp from "sharp";
import { zipSync, strToU8 } from "fflate";
import { uuidv7 } from "uuidv7";
import type { ItemView } from "../../src/core/views/workViews";
import type { Person } from "../../src/server/call";
import type { Sql } from "../../src/server/db/connection";
import { addItem, lookAtArrived } from "../../src/server/items/items";
import { beginTransfer } from "../../src/server/transfers/transfers";
import { TransferStore } from "../../src/server/transfers/store";
import { asPerson } from "./database";

/** Sends a file as the student's browser does: begun, its bytes, then put into the piece. */
export async function putFile(
  sql: Sql,
  who: Person,
  pieceId: string,
  partId: string,
  name: string,
  bytes: Buffer,
  now: Date,
  replaces: string | null = null,
): Promise<ItemView> {
  const student = asPerson(sql, who);
  const id = uuidv7();
  await student.change(now, (call) =>
    beginTransfer(call, id, { pieceId, partId, name, size: bytes.length }),
  );
  await new TransferStore(sql, () => now).write(Readable.from([bytes]), id, 0);
  const item = { itemId: uuidv7(), transferId: id, partId, replaces };
  return student.prepared(
    now,
    (call) => lookAtArrived(call, pieceId, item),
    (call, ready) => addItem(call, pieceId, item, ready),
  );
}

const run = promisify(execFile);

async function inTemp<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "almanac-test-"));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A document of each office kind, written by LibreOffice from words of ours. */
export function officeFile(
  ending: "docx" | "odt" | "rtf" | "pptx" | "odp" | "xlsx" | "pdf",
  words: string,
): Promise<Buffer> {
  return inTemp(async (folder) => {
    const slides = ending === "pptx" || ending === "odp";
    const source = ending === "xlsx" ? "a.csv" : slides ? "a.fodp" : "a.html";
    const fodp = `<?xml version="1.0" encoding="UTF-8"?><office:document xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" office:version="1.3" office:mimetype="application/vnd.oasis.opendocument.presentation"><office:body><office:presentation><draw:page draw:name="p1"><draw:frame svg:x="2cm" svg:y="2cm" svg:width="20cm" svg:height="5cm"><draw:text-box><text:p>${words}</text:p></draw:text-box></draw:frame></draw:page></office:presentation></office:body></office:document>`;
    await writeFile(
      path.join(folder, source),
      ending === "xlsx"
        ? `day,rain\n${words},4\n`
        : slides
          ? fodp
          : `<h1>Report</h1><p>${words}</p>`,
    );
    const filter = {
      docx: "docx:MS Word 2007 XML",
      odt: "odt:writer8",
      rtf: "rtf:Rich Text Format",
      pptx: "pptx",
      odp: "odp",
      xlsx: "xlsx",
      pdf: "pdf:writer_web_pdf_Export",
    }[ending];
    await run(
      "soffice",
      [
        `-env:UserInstallation=file://${folder}/profile`,
        "--headless",
        ...(source === "a.html" ? ["--infilter=HTML (StarWriter)"] : []),
        "--convert-to",
        ending === "pdf" ? "pdf:writer_pdf_Export" : filter,
        "--outdir",
        folder,
        path.join(folder, source),
      ],
      { timeout: 90_000 },
    );
    return readFile(path.join(folder, `a.${ending}`));
  });
}

/** A tone (and a picture) of so many seconds. `live`: as a browser's recorder writes it, without a duration. */
export function recording(
  kind: "sound" | "film",
  seconds: number,
  { live = false, hz = 440 } = {},
): Promise<Buffer> {
  return inTemp(async (folder) => {
    const film =
      kind === "film"
        ? ["-f", "lavfi", "-i", `testsrc=duration=${seconds}:size=320x240:rate=12`]
        : [];
    await run("ffmpeg", [
      "-v",
      "error",
      ...film,
      "-f",
      "lavfi",
      "-i",
      `sine=frequency=${hz}:duration=${seconds}`,
      ...(kind === "film" ? ["-c:v", "libvpx", "-b:v", "300k"] : []),
      "-c:a",
      "libopus",
      "-b:a",
      "32k",
      ...(live ? ["-live", "1"] : []),
      "-f",
      "webm",
      path.join(folder, "a.webm"),
    ]);
    return readFile(path.join(folder, "a.webm"));
  });
}

/** A photo with a place, a camera and an orientation in it. */
export async function photo(width = 80, height = 40, orientation = 6): Promise<Buffer> {
  const left = await sharp({
    create: { width: Math.floor(width / 2), height, channels: 3, background: "#c03020" },
  })
    .png()
    .toBuffer();
  return sharp({ create: { width, height, channels: 3, background: "#2040c0" } })
    .composite([{ input: left, left: 0, top: 0 }])
    .jpeg({ quality: 95 })
    .withExif({
      IFD0: { Make: "Camera", Model: "Secret", Orientation: String(orientation) },
      IFD3: {
        GPSLatitudeRef: "N",
        GPSLatitude: "44/1 38/1 0/1",
        GPSLongitudeRef: "W",
        GPSLongitude: "63/1 34/1 0/1",
      },
    })
    .withMetadata({ orientation })
    .toBuffer();
}

export function heic(width = 64, height = 48): Promise<Buffer> {
  return inTemp(async (folder) => {
    await writeFile(
      path.join(folder, "a.png"),
      await sharp({ create: { width, height, channels: 3, background: "#20a060" } })
        .png()
        .toBuffer(),
    );
    await run("heif-enc", ["-o", path.join(folder, "a.heic"), path.join(folder, "a.png")]);
    return readFile(path.join(folder, "a.heic"));
  });
}

export function lockedPdf(pdf: Buffer): Promise<Buffer> {
  return inTemp(async (folder) => {
    await writeFile(path.join(folder, "a.pdf"), pdf);
    await run("qpdf", [
      "--encrypt",
      "secret",
      "owner",
      "256",
      "--",
      path.join(folder, "a.pdf"),
      path.join(folder, "b.pdf"),
    ]);
    return readFile(path.join(folder, "b.pdf"));
  });
}

/** The least of a DOCX, with a body of one's choice. */
export function docxOf(
  document: string,
  more: Record<string, Uint8Array> = {},
  level: 1 | 9 = 9,
): Buffer {
  const types = `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`;
  const rels = `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`;
  return Buffer.from(
    zipSync(
      {
        "[Content_Types].xml": strToU8(types),
        "_rels/.rels": strToU8(rels),
        "word/document.xml": strToU8(document),
        ...more,
      },
      { level },
    ),
  );
}
export const wordBody = (inner: string) =>
  `<?xml version="1.0"?><w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${inner}</w:body></w:document>`;

/** A PNG that says it is 50,000 × 50,000 in few bytes (its header is true, its data short). */
export async function pictureBomb(): Promise<Buffer> {
  const small = await sharp({ create: { width: 8, height: 8, channels: 3, background: "#fff" } })
    .png()
    .toBuffer();
  const bomb = Buffer.from(small);
  bomb.writeUInt32BE(50_000, 16);
  bomb.writeUInt32BE(50_000, 20);
  bomb.writeUInt32BE(crc32(bomb.subarray(12, 29)), 29);
  return bomb;
}

/** CRC-32 as PNG has it (ISO 3309; PNG specification, annex D). */
function crc32(bytes: Buffer): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let n = 0; n < 8; n += 1) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return (crc ^ 0xffffffff) >>> 0;
}
