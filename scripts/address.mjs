// From which address a request came, as far as anyone can be believed.

/** How many proxies of one's own stand in front: `1` for one, `2` for one behind another; nothing for none. */
export function hopsOf(setting) {
  const hops = Number(setting || 0);
  if (!Number.isInteger(hops) || hops < 0 || hops > 8)
    throw new Error(
      `ALMANAC_TRUST_PROXY is "${setting}"; it is the number of your own proxies in front, such as 1.`,
    );
  return hops;
}

/**
 * Each proxy writes at the right end of X-Forwarded-For whom it was asked by; what stands further left anyone can
 * have written. So the address is counted from the right, by one's own proxies. IPv6 is cut to its /64, which
 * is what one household or school has.
 */
export function addressOf(request, hops) {
  const direct = request.socket.remoteAddress ?? "unknown";
  const forwarded = String(request.headers["x-forwarded-for"] ?? "")
    .split(",")
    .map((part) => part.trim())
    .filter(Boolean);
  const found = hops === 0 ? direct : (forwarded.at(-hops) ?? direct);
  return networkOf(found.slice(0, 64));
}

function networkOf(address) {
  const plain = address.replace(/^::ffff:(?=\d+\.)/i, "");
  if (!plain.includes(":")) return plain;
  const [head, tail] = plain.toLowerCase().split("::");
  const left = head ? head.split(":") : [];
  const right = tail ? tail.split(":") : [];
  const groups = [
    ...left,
    ...Array(Math.max(0, 8 - left.length - right.length)).fill("0"),
    ...right,
  ];
  return `${groups.slice(0, 4).join(":")}::/64`;
}
