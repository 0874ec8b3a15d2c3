// The headers of every answer, whoever makes it: pages, routes, files, errors, what Next answers by itself.
import { randomBytes } from "node:crypto";

const ALWAYS = {
  "x-content-type-options": "nosniff",
  "x-frame-options": "DENY",
  "referrer-policy": "same-origin",
  "cross-origin-opener-policy": "same-origin",
  "permissions-policy": "camera=(self), geolocation=(), microphone=(self), payment=()",
};

/**
 * What a page may load. Scripts run only with this request's nonce; styles may stand in attributes (positions of
 * margin notes are set that way), but nothing is loaded from elsewhere.
 */
function policyWith(nonce, development) {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ""}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    // pdf.js and the work on pictures run in workers.
    "worker-src 'self' blob:",
    "font-src 'self'",
    "connect-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

/**
 * Sees to it that an answer leaves with its headers. They are set as it leaves, so that what makes the answer can
 * be stricter (a file has a policy of its own), and none of them is said twice.
 */
export function guardHeaders(request, response, { secure, development }) {
  const policy = policyWith(randomBytes(16).toString("base64"), development);
  // Next takes the nonce for its own scripts from here.
  request.headers["content-security-policy"] = policy;
  const wanted = {
    ...ALWAYS,
    "content-security-policy": policy,
    ...(secure ? { "strict-transport-security": "max-age=31536000" } : {}),
  };
  const { writeHead } = response;
  response.writeHead = function (...given) {
    for (const [name, value] of Object.entries(wanted))
      if (!response.hasHeader(name)) response.setHeader(name, value);
    // No page of another origin reads anything here, whatever a protocol's package thinks.
    for (const name of response.getHeaderNames())
      if (name.startsWith("access-control-")) response.removeHeader(name);
    return writeHead.apply(response, given);
  };
}
