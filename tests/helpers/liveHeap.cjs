// Preloaded into a server under load: answers how many bytes are in use once everything unused has been collected.
const { createServer } = require("node:http");
const v8 = require("node:v8");
const { runInNewContext } = require("node:vm");
const { isMainThread } = require("node:worker_threads");

const port = Number(process.env.UPWIND_LIVE_HEAP);
if (isMainThread && port) {
  v8.setFlagsFromString("--expose-gc");
  const collect = runInNewContext("gc");
  createServer((_request, response) => {
    collect();
    response.end(JSON.stringify(process.memoryUsage()));
  })
    .listen(port, "127.0.0.1")
    .unref();
}
