import { NextResponse, type NextRequest } from "next/server";

/**
 * The headers of every answer. Scripts run only with this request's nonce; styles may stand in
 * attributes (positions of margin notes are set that way), but nothing is loaded from elsewhere.
 */
export function proxy(request: NextRequest): NextResponse {
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString("base64");
  const development = process.env.NODE_ENV === "development";
  const policy = [
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
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("x-frame-options", "DENY");
  response.headers.set("referrer-policy", "same-origin");
  response.headers.set("cross-origin-opener-policy", "same-origin");
  response.headers.set(
    "permissions-policy",
    "camera=(self), geolocation=(), microphone=(self), payment=()",
  );
  if (request.nextUrl.protocol === "https:")
    response.headers.set("strict-transport-security", "max-age=31536000");
  return response;
}

/** Files and feeds bring stricter headers of their own. */
export const config = {
  matcher: [
    {
      source:
        "/((?!_next/static|_next/image|favicon.ico|offline.js|api/uploads/|api/feeds/|api/items/|api/transfers).*)",
    },
  ],
};
