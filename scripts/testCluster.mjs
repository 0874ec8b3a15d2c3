// For tests that need PostgreSQL to go away and come back: node scripts/testCluster.mjs stop|start
import { fail, Stop } from "./setup/process.mjs";
import { clusterIn, startCluster } from "./setup/cluster.mjs";

const home = ".almanac-test";
const acts = {
  // "immediate" is a crash: no connection is told, nothing is written back.
  stop: () => clusterIn(home, { durable: false }).stop("immediate"),
  start: () => startCluster(home, { durable: false }),
};
const act = acts[process.argv[2]];
if (!act) fail(new Stop("Say stop or start."));
else await act().catch(fail);
