// The web server as two processes that take turns at one port: what a second processor gives.
import cluster from "node:cluster";

if (cluster.isPrimary) {
  const workers = [cluster.fork(), cluster.fork()];
  let ending = false;
  for (const signal of ["SIGINT", "SIGTERM"])
    process.on(signal, () => {
      ending = true;
      for (const worker of workers) worker.process.kill(signal);
    });
  cluster.on("exit", () => {
    if (!ending) process.exit(1);
    if (workers.every((worker) => worker.isDead())) process.exit(0);
  });
} else {
  await import("../server.mjs");
}
