/** The text of a message of our own making: one part, quoted-printable, base64 or plain. */
export function readPlain(mime: Buffer): string {
  const whole = mime.toString("utf8");
  const at = whole.search(/\r?\n\r?\n/);
  const head = whole.slice(0, at);
  const body = whole.slice(at).replace(/^\r?\n\r?\n/, "");
  if (/^content-transfer-encoding:\s*base64/im.test(head))
    return Buffer.from(body, "base64").toString("utf8");
  if (!/^content-transfer-encoding:\s*quoted-printable/im.test(head)) return body;
  const bytes = body
    .replace(/=\r?\n/g, "")
    .replace(/=([0-9A-F]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
  return Buffer.from(bytes, "latin1").toString("utf8");
}
