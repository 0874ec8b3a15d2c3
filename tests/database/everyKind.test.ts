import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import exifr from "exifr";
import sharp from "sharp";
import { strToU8 } from "fflate";
import { aPart, WRITING, type Part } from "../../src/core/handouts/parts";
import {
  itemView,
  orderItems,
  readItems,
  removeItem,
  restoreItem,
} from "../../src/server/items/items";
import { giveItem } from "../../src/server/items/give";
import { HANDLERS } from "../../src/server/background/handlers";
import { runAll } from "../../src/server/jobs/jobs";
import { handOut } from "../../src/server/handouts/handOut";
import { handIn, takeBack } from "../../src/server/pieces/moves";
import { readVersions } from "../../src/server/life/queries";
import { saveWork } from "../../src/server/pieces/work";
import { setLimits } from "../../src/server/transfers/limits";
import {
  asPerson,
  doc,
  endAnswers,
  smallSchool,
  testDatabase,
  type SmallSchool,
  type TestDatabase,
} from "../support/database";
import {
  docxOf,
  heic,
  lockedPdf,
  officeFile,
  photo,
  pictureBomb,
  putFile,
  recording,
  wordBody,
} from "../support/files";
import { planFor } from "../support/handOut";

/** Files of every kind: what becomes of them, and what is refused. */
let database: TestDatabase;
let school: SmallSchool;
const NOW = new Date("2026-10-12T14:00:00Z");
const PHOTOS = aPart("00000000-0000-4000-8000-0000000000a1", "photos", {
  label: "a picture of the graph",
});
const FILES = aPart("00000000-0000-4000-8000-0000000000a2", "files");
const SOUND = aPart("00000000-0000-4000-8000-0000000000a3", "sound", { minutes: 1 });
const FILM = aPart("00000000-0000-4000-8000-0000000000a4", "film");
let pieces: string[];

export async function pieceWith(parts: Part[]): Promise<string[]> {
  const plan = planFor(school.sectionId, {
    title: "Everything",
    instructions: doc("Do."),
    expects: "work",
    points: "10",
    opens: null,
    due: "2026-10-16T16:00",
    closes: null,
    promised: null,
    graceMinutes: 0,
    mayTakeBack: true,
  });
  plan.work.parts = parts;
  const { handOuts } = await asPerson(database.sql, school.owner).change(NOW, (call) =>
    handOut(call, { plan, draftId: null, pastIsMeant: false }),
  );
  return (
    await database.sql<
      { id: string }[]
    >`select id from piece where hand_out_id = ${handOuts[0]!.id} order by student_id`
  ).map((p) => p.id);
}
beforeAll(async () => {
  database = await testDatabase();
  school = await smallSchool(database.sql);
  school.students.sort((a, b) => (a.id < b.id ? -1 : 1));
  pieces = await pieceWith([WRITING, PHOTOS, FILES, SOUND, FILM]);
});
afterAll(() => endAnswers(database));

const student = () => school.students[0]!;
const put = (part: Part, name: string, bytes: Buffer, replaces: string | null = null) =>
  putFile(database.sql, student(), pieces[0]!, part.id, name, bytes, NOW, replaces);
const jobs = () => runAll(database.sql, HANDLERS, NOW);
const fetchItem = (itemId: string, as: string, range?: string, who = student()) =>
  asPerson(database.sql, who).read(NOW, (call) =>
    giveItem(
      call,
      itemId,
      as,
      new Request("http://almanac.test/", { headers: range ? { range } : {} }),
    ),
  );
const bytesOf = async (response: Response) => Buffer.from(await response.arrayBuffer());
const fresh = async (id: string) =>
  itemView((await readItems(database.sql, pieces[0]!, "work")).find((r) => r.id === id)!);

describe("photos of paper", () => {
  test("stand upright, without place, camera or anything else that was in them", async () => {
    const given = await photo(80, 40, 6);
    // An EXIF reader that is not the program's own.
    expect(await exifr.parse(given, { gps: true })).toMatchObject({
      Model: "Secret",
      latitude: expect.closeTo(44.633, 2),
    });
    const item = await put(PHOTOS, "../IMG\u202E 1.JPG", given);
    expect(item).toMatchObject({
      kind: "photo",
      name: "IMG 1.jpg",
      width: 40,
      height: 80,
      view: { as: "picture" },
    });
    const kept = await bytesOf(await fetchItem(item.id, "shown"));
    expect(
      await exifr.parse(kept, { gps: true, xmp: true, iptc: true }).catch(() => undefined),
    ).toBeUndefined();
    // Turned a quarter to the right (orientation 6, Exif 2.3 table 4): what was on the left is above.
    const { data, info } = await sharp(kept).raw().toBuffer({ resolveWithObject: true });
    const red = (x: number, y: number) => data[(y * info.width + x) * info.channels]!;
    expect(red(20, 10)).toBeGreaterThan(150);
    expect(red(20, 70)).toBeLessThan(90);
  });
  test("HEIC becomes JPEG", async () => {
    const item = await put(PHOTOS, "IMG_2.HEIC", await heic(64, 48));
    expect(item).toMatchObject({ kind: "photo", name: "IMG_2.jpg", width: 64, height: 48 });
    const { dominant } = await sharp(await bytesOf(await fetchItem(item.id, "shown"))).stats();
    expect(dominant.g).toBeGreaterThan(dominant.r);
  });
  test("are put in order, taken out and back, changed and gone back from", async () => {
    const ids = (await readItems(database.sql, pieces[0]!, "work")).map((r) => r.id);
    const as = asPerson(database.sql, student());
    await as.change(NOW, (call) => orderItems(call, pieces[0]!, [...ids].reverse()));
    expect((await readItems(database.sql, pieces[0]!, "work")).map((r) => r.id)).toEqual(
      [...ids].reverse(),
    );
    await as.change(NOW, (call) => removeItem(call, pieces[0]!, ids[0]!, true));
    expect(await readItems(database.sql, pieces[0]!, "work")).toHaveLength(ids.length - 1);
    await as.change(NOW, (call) => removeItem(call, pieces[0]!, ids[0]!, false));
    const turned = await put(PHOTOS, "turned.jpg", await photo(40, 80, 1), ids[0]!);
    expect(turned.madeFrom).toBe(ids[0]);
    const again = await put(PHOTOS, "again.jpg", await photo(40, 70, 1), turned.id);
    expect(again.madeFrom).toBe(ids[0]);
    expect((await as.change(NOW, (call) => restoreItem(call, pieces[0]!, again.id))).id).toBe(
      ids[0],
    );
  });
});

describe("files", () => {
  test.each(["docx", "odt", "rtf", "pptx", "odp", "xlsx"] as const)(
    "%s is turned into pages, and the original is kept to the byte",
    async (ending) => {
      const given = await officeFile(ending, `The puddle dried first in ${ending}`);
      const item = await put(FILES, `report.${ending}`, given);
      expect(item).toMatchObject({
        kind: "document",
        state: "being made",
        sha256: createHash("sha256").update(given).digest("hex"),
      });
      await jobs();
      const shown = await fresh(item.id);
      expect(shown).toMatchObject({ state: "ready", pages: 1, view: { as: "pages" } });
      const pdf = await bytesOf(await fetchItem(item.id, "pages"));
      expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
      // The words are read from the pages by a program that had no part in making them (poppler's pdftotext).
      expect(execFileSync("pdftotext", ["-", "-"], { input: pdf }).toString()).toContain(
        "puddle dried first",
      );
      const original = await fetchItem(item.id, "original");
      expect(await bytesOf(original)).toEqual(given);
      expect(original.headers.get("content-disposition")).toMatch(/^attachment/);
      expect(original.headers.get("content-security-policy")).toContain("sandbox");
      expect(original.headers.get("x-content-type-options")).toBe("nosniff");
    },
  );
  test("the words of a DOCX are read, so that marks can stand on them", async () => {
    const rows = await readItems(database.sql, pieces[0]!, "work");
    expect(JSON.stringify(rows.find((r) => r.name === "report.docx")!.doc)).toContain(
      "The puddle dried first in docx",
    );
  });
  test("what cannot be shown is kept, and says so", async () => {
    const item = await put(FILES, "data.bin", Buffer.from([1, 2, 3, 0, 255, 254, 9, 9]));
    expect(item).toMatchObject({
      kind: "other",
      state: "not shown",
      why: expect.stringContaining("can be fetched"),
    });
  });
});

describe("sound and film", () => {
  test("a recording without a duration gets one, and plays from any place", async () => {
    const item = await put(SOUND, "recording.webm", await recording("sound", 4, { live: true }));
    expect(item).toMatchObject({ kind: "sound", view: { as: "sound" } });
    await jobs();
    const shown = await fresh(item.id);
    expect(shown.seconds).toBeCloseTo(4, 1);
    expect(shown.view!.href).toContain("as=playable");
    const part = await fetchItem(item.id, "playable", "bytes=100-199");
    expect(part.status).toBe(206);
    expect(part.headers.get("content-type")).toBe("audio/webm");
    expect(part.headers.get("content-range")).toMatch(/^bytes 100-199\/\d+$/);
    const whole = await bytesOf(await fetchItem(item.id, "playable"));
    expect(await bytesOf(part)).toEqual(whole.subarray(100, 200));
    expect(await bytesOf(await fetchItem(item.id, "playable", "bytes=-50"))).toEqual(
      whole.subarray(-50),
    );
    await expect(fetchItem(item.id, "playable", "bytes=99999999-")).rejects.toThrow("no such part");
  });
  test("a film gets a still, and knows its size", async () => {
    const item = await put(FILM, "gauge.webm", await recording("film", 3));
    await jobs();
    const shown = await fresh(item.id);
    expect(shown).toMatchObject({ kind: "film", width: 320, height: 240, view: { as: "film" } });
    expect((await sharp(await bytesOf(await fetchItem(item.id, "still"))).metadata()).format).toBe(
      "jpeg",
    );
  });
});

describe("files that stand in the writing", () => {
  const as = () => asPerson(database.sql, student());
  let piece: string;
  let revision = 0;
  const file = (item: string) => ({
    type: "file",
    attrs: { item, as: "film", name: "gauge.webm" },
  });
  const writing = (...blocks: object[]) => ({
    doc: { type: "doc", content: [{ type: "paragraph" }, ...blocks] },
  });
  const save = async (...blocks: object[]) => {
    const saved = await as().change(NOW, (call) =>
      saveWork(call, piece, writing(...blocks), revision),
    );
    revision = saved.revision;
  };
  const bring = async (name: string, bytes: Buffer) =>
    putFile(database.sql, student(), piece, WRITING.id, name, bytes, NOW);
  const takenOut = async (id: string) =>
    (
      await database.sql<{ removedAt: Date | null }[]>`select removed_at from item where id = ${id}`
    )[0]!.removedAt;

  test("leave the work and come back with the words they stand in", async () => {
    piece = (await pieceWith([WRITING]))[0]!;
    const film = await bring("gauge.webm", await recording("film", 2));
    expect(film).toMatchObject({ kind: "film", inText: true });
    await save(file(film.id));
    expect(await takenOut(film.id)).toBeNull();
    await save();
    expect(await takenOut(film.id)).not.toBeNull();
    // Undoing shows it at once: the writer still has it.
    expect((await readItems(database.sql, piece, "work")).map((row) => row.id)).toEqual([film.id]);
    await save(file(film.id));
    expect(await takenOut(film.id)).toBeNull();
  });
  test("only what the text names is handed in, and one can mark a moment of it", async () => {
    const [kept] = await readItems(database.sql, piece, "work");
    const sound = await bring("aside.webm", await recording("sound", 1));
    await as().change(NOW, (call) => handIn(call, piece, writing(file(kept!.id)), revision));
    const version = (await readVersions(database.sql, piece)).at(-1);
    const held = await readItems(database.sql, piece, { version: version!.id });
    expect(held.map((row) => row.id)).toEqual([kept!.id]);
    expect(await takenOut(sound.id)).not.toBeNull();
  });
  test("another's file is none of this piece, whatever the text says", async () => {
    const mine = (await readItems(database.sql, piece, "work"))[0]!.id;
    const other = school.students[1]!;
    const [, second] = await pieceWith([WRITING]);
    await asPerson(database.sql, other).change(NOW, (call) =>
      handIn(call, second!, writing(file(mine)), 0),
    );
    const version = (await readVersions(database.sql, second!)).at(-1);
    expect(await readItems(database.sql, second!, { version: version!.id })).toEqual([]);
    await expect(fetchItem(mine, "shown", undefined, other)).rejects.toThrow();
  });
  test.each<[string, () => Promise<Buffer> | Buffer]>([
    ["a document", () => officeFile("docx", "words")],
    ["a photo", () => photo(40, 40, 1)],
    ["plain text", () => Buffer.from("only words")],
  ])("%s is refused there, in words", async (_name, make) => {
    const [fresh] = await pieceWith([WRITING]);
    await expect(
      putFile(database.sql, student(), fresh!, WRITING.id, "x", await make(), NOW),
    ).rejects.toThrow("there can be sounds, films and PDF");
  });
});

describe("what is refused, in words, while the rest stays", () => {
  const half = (b: Buffer) => b.subarray(0, Math.floor(b.length / 2));
  test.each<[string, Part, () => Promise<Buffer> | Buffer, string]>([
    [
      "a renamed program",
      FILES,
      () => Buffer.concat([Buffer.from("MZ\u0090\u0000"), Buffer.alloc(400, 1)]),
      "This is a program",
    ],
    [
      "a program of another system",
      FILES,
      () => Buffer.concat([Buffer.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1]), Buffer.alloc(400)]),
      "This is a program",
    ],
    [
      "a PDF with a password",
      FILES,
      async () => lockedPdf(await officeFile("pdf", "locked")),
      "locked with a password",
    ],
    ["half a PDF", FILES, () => Buffer.from("%PDF-1.7\n1 0 obj\n<<"), "damaged or cut off"],
    ["half a film", FILM, async () => half(await mp4()), "its end is missing"],
    ["sound where a film is asked", FILM, () => recording("sound", 1), "not a film"],
    ["a recording that is too long", SOUND, () => recording("sound", 70), "1 minute is the most"],
    ["a picture of 50,000 × 50,000", PHOTOS, pictureBomb, "50,000 × 50,000"],
    ["half a photo", PHOTOS, async () => half(await photo(600, 400, 1)), "damaged or cut off"],
    [
      "a drawing with a script",
      FILES,
      () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'),
      "SVG drawing",
    ],
    [
      "a document that unpacks to gigabytes",
      FILES,
      () => docxOf(wordBody(`<w:p><w:r><w:t>${"x".repeat(12_000_000)}</w:t></w:r></w:p>`)),
      "unpacks to far more",
    ],
    [
      "a document with many large parts",
      FILES,
      () =>
        docxOf(
          wordBody(""),
          Object.fromEntries(
            Array.from({ length: 5 }, (_, n) => [
              `word/media/${n}.bin`,
              new Uint8Array(49_000_000),
            ]),
          ),
          1,
        ),
      "unpacks to far more",
    ],
    [
      "a document with external entities",
      FILES,
      () =>
        docxOf(
          `<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>${wordBody("<w:p><w:r><w:t>&e;</w:t></w:r></w:p>").replace(/<\?xml.*?\?>/, "")}`,
        ),
      "XML entities",
    ],
    [
      "a document with entities far behind its beginning, over the edge of what is read at a time",
      FILES,
      () =>
        docxOf(
          `<?xml version="1.0"?><!--${"x".repeat(400_000)}--><!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>${wordBody("<w:p/>").replace(/<\?xml.*?\?>/, "")}`,
        ),
      "XML entities",
    ],
    [
      "half a document",
      FILES,
      async () => half(await officeFile("docx", "half")),
      "damaged or cut off",
    ],
  ])("%s", async (_, part, bytes, words) => {
    const before = (await readItems(database.sql, pieces[0]!, "work")).length;
    await expect(put(part, "homework.docx", await bytes())).rejects.toThrow(words);
    expect(await readItems(database.sql, pieces[0]!, "work")).toHaveLength(before);
  });
  test("an empty file, and one beyond the limits, before a byte is sent", async () => {
    await expect(put(FILES, "empty.txt", Buffer.alloc(0))).rejects.toThrow("empty (0 bytes)");
    const office = asPerson(database.sql, school.office);
    await office.change(NOW, (call) =>
      setLimits(call, {
        fileMegabytes: 1,
        pieceMegabytes: 500,
        studentMegabytes: 4000,
        recordingMinutes: 10,
      }),
    );
    await expect(put(FILES, "large.txt", Buffer.alloc(1_200_000, 97))).rejects.toThrow(
      "1.2 MB; 1 MB is the most",
    );
    await office.change(NOW, (call) =>
      setLimits(call, {
        fileMegabytes: 250,
        pieceMegabytes: 500,
        studentMegabytes: 4000,
        recordingMinutes: 10,
      }),
    );
  });
  test("a linked picture in a document fetches nothing, and the pages are made", async () => {
    const item = await put(
      FILES,
      "linked.docx",
      docxOf(wordBody("<w:p><w:r><w:t>words</w:t></w:r></w:p>"), {
        "word/_rels/document.xml.rels": strToU8(
          '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r9" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/image" Target="http://127.0.0.1:9/x.png" TargetMode="External"/></Relationships>',
        ),
      }),
    );
    await jobs();
    expect((await fresh(item.id)).state).toBe("ready");
  });
});

async function mp4(): Promise<Buffer> {
  const { readFileSync, rmSync } = await import("node:fs");
  const file = `/tmp/almanac-test-${process.pid}.mp4`;
  execFileSync("ffmpeg", [
    "-v",
    "error",
    "-y",
    "-f",
    "lavfi",
    "-i",
    "testsrc=duration=2:size=160x120:rate=10",
    "-c:v",
    "libx264",
    file,
  ]);
  const bytes = readFileSync(file);
  rmSync(file);
  return bytes;
}

describe("whose it is", () => {
  test("a teacher gets a file once it was handed in, another student never", async () => {
    const [row] = await readItems(database.sql, pieces[0]!, "work");
    await expect(fetchItem(row!.id, "original", undefined, school.owner)).rejects.toThrow(
      "nothing here",
    );
    await expect(fetchItem(row!.id, "original", undefined, school.students[1]!)).rejects.toThrow(
      "nothing here",
    );
    const as = asPerson(database.sql, student());
    const receipt = await as.change(NOW, (call) =>
      handIn(call, pieces[0]!, { doc: doc("See the files.") }, 0),
    );
    expect(receipt.files.map((f) => f.name)).toEqual(
      (await readItems(database.sql, pieces[0]!, "work")).map((r) => r.name),
    );
    expect((await fetchItem(row!.id, "original", undefined, school.owner)).status).toBe(200);
    await expect(fetchItem(row!.id, "original", undefined, school.stranger)).rejects.toThrow(
      "nothing here",
    );
    await as.change(NOW, (call) => takeBack(call, pieces[0]!));
    await as.change(NOW, (call) => removeItem(call, pieces[0]!, row!.id, true));
    // What was handed in keeps it.
    const [version] = await database.sql<
      { id: string; text: string }[]
    >`select id, text from version where piece_id = ${pieces[0]!}`;
    expect(
      (await readItems(database.sql, pieces[0]!, { version: version!.id })).map((r) => r.id),
    ).toContain(row!.id);
    expect(version!.text).toMatch(
      /^See the files\.[\s\S]*report\.docx[\s\S]*The puddle dried first in docx/,
    );
    await expect(database.sql`delete from item where id = ${row!.id}`).rejects.toThrow(
      /append-only|foreign key/,
    );
  });
});
