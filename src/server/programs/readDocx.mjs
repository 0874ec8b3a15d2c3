// Run in the jail: the words of /work/<name> (DOCX) as HTML on standard output. Pictures are left out: the
// pages show them.
import { readFile, writeFile } from "node:fs/promises";
import mammoth from "mammoth";

const buffer = await readFile(`/work/${process.argv[2]}`);
const { value } = await mammoth.convertToHtml(
  { buffer },
  { convertImage: mammoth.images.imgElement(async () => ({ src: "" })), externalFileAccess: false },
);
await writeFile("/work/out.html", value);
