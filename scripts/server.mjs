// The web server: Next.js behind Node's own http server, which knows what Next does not tell a route:
// from which address a request came. Also gives every request an id and ends cleanly when asked to.
import { randomUUID } from "node:crypto";
import http from "node:http";
import next from "next";
import { addressOf, hopsOf } from "./address.mjs";
import { guardHeaders } from "./headers.mjs";
import { noteServer } from "./setup/running.mjs";

const port = Number(process.env.PORT ?? 4300);
const hostname = process.env.HOST ?? "127.0.0.1";
const hops = hopsOf(process.env.ALMANAC_TRUST_PROXY);
const development = process.env.ALMANAC_DEV === "1";

// Where nobody reads the log any more a line that cannot be written is an error, which is logged, which cannot be written:
// without this a server whose log reader ended is busy with that alone.
for (const out of [process.stdout, process.stderr]) out.on("error", () => {});

if (!development) noteServer();
const app = next({ dev: development, hostname, port });
await app.prepare();
const handle = app.getRequestHandler();

const server = http.createServer((request, response) => {
  request.headers["x-almanac-address"] = addressOf(request, hops);
  const secure =
    hops > 0
      ? request.headers["x-forwarded-proto"] === "https"
      : (process.env.ALMANAC_ORIGIN ?? "").startsWith("https:");
  guardHeaders(request, response, { secure, development });
  if (!/^[\w-]{8,64}$/.test(String(request.headers["x-request-id"] ?? "")))
    request.headers["x-request-id"] = randomUUID();
  handle(request, response);
});

server.on("error", (error) => {
  console.error(
    error.code === "EADDRINUSE"
      ? `Port ${port} is taken by another program. Choose another with PORT=…`
      : error.message,
  );
  process.exit(1);
});
server.listen(port, hostname, () => console.log(`listening on http://${hostname}:${port}`));

let ending = false;
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    if (ending) return;
    ending = true;
    // Requests under way get a moment to finish; connections that are only kept open do not.
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 1500).unref();
    setTimeout(() => process.exit(0), 4000).unref();
  });
}
