import sharp from "sharp";

/** A drawing of a home-made rain gauge with its scale, made here, for the instructions of the rainfall log. */
export function drawRainGauge(): Promise<Buffer> {
  const marks = Array.from(
    { length: 11 },
    (_, n) =>
      `<line x1="250" x2="${n % 5 === 0 ? 290 : 270}" y1="${420 - n * 28}" y2="${420 - n * 28}" stroke="#211d17" stroke-width="3"/>${n % 5 === 0 ? `<text x="302" y="${428 - n * 28}" font-family="sans-serif" font-size="24" fill="#211d17">${n * 2} mm</text>` : ""}`,
  ).join("");
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="560" height="480"><rect width="560" height="480" fill="#faf6ee"/><path d="M110 60 L190 150 L190 430 L250 430 L250 150 L330 60 Z" fill="none" stroke="#211d17" stroke-width="5" stroke-linejoin="round"/><rect x="193" y="280" width="54" height="147" fill="#0a5f6b" opacity="0.35"/><line x1="60" x2="400" y1="433" y2="433" stroke="#a89a80" stroke-width="3"/>${marks}<path d="M205 280 q14 8 28 0 t14 0" fill="none" stroke="#0a5f6b" stroke-width="3"/></svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
}
