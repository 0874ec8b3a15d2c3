/** A PDF written by hand, page by page: for tests that must know exactly what is in one. */
export type PdfPage = {
  rotate?: number;
  crop?: [number, number, number, number];
  /** Lines of Helvetica 14, each with its place in points. */ lines?: {
    x: number;
    y: number;
    text: string;
  }[];
};

export function writePdf(pages: readonly PdfPage[]): Buffer {
  const escaped = (text: string) => text.replace(/[\\()]/g, (c) => `\\${c}`);
  const font = 3;
  const first = 4;
  const objects = [
    "<< /Type /Catalog /Pages 2 0 R >>",
    `<< /Type /Pages /Kids [${pages.map((_, n) => `${first + n * 2} 0 R`).join(" ")}] /Count ${pages.length} >>`,
    "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>",
    ...pages.flatMap(({ rotate = 0, crop = [0, 0, 612, 792], lines = [] }, n) => {
      const content = lines
        .map(({ x, y, text }) => `BT /F1 14 Tf 1 0 0 1 ${x} ${y} Tm (${escaped(text)}) Tj ET`)
        .join("\n");
      return [
        `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 612 792] /CropBox [${crop.join(" ")}] /Rotate ${rotate} /Resources << /Font << /F1 ${font} 0 R >> >> /Contents ${first + n * 2 + 1} 0 R >>`,
        `<< /Length ${Buffer.byteLength(content, "latin1")} >>\nstream\n${content}\nendstream`,
      ];
    }),
  ];
  let out = "%PDF-1.4\n";
  const offsets = objects.map((object, n) => {
    const at = out.length;
    out += `${n + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const xref = out.length;
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${offsets.map((at) => `${String(at).padStart(10, "0")} 00000 n \n`).join("")}trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${xref}\n%%EOF\n`;
  return Buffer.from(out, "latin1");
}
