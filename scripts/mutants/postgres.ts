import { startPostgres } from "../../tests/helpers/postgres";

/** A database server for as long as somebody holds this process's input open; its port is all it says. */
const server = await startPostgres();
process.stdout.write(`${server?.port ?? 0}\n`);
process.stdin.resume();
process.stdin.on("end", () => {
  server?.remove();
  process.exit(0);
});
