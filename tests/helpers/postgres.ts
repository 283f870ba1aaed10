import { execFileSync, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { freePort } from "./ports";

/** Where Debian's packages put the newest server's programs; null where there is none. */
export function postgresPrograms(): { version: string; bin: string } | null {
  const under = "/usr/lib/postgresql";
  if (!existsSync(under)) return null;
  const version = readdirSync(under)
    .filter((name) => existsSync(path.join(under, name, "bin", "initdb")))
    .sort((a, b) => Number(a) - Number(b))
    .at(-1);
  return version ? { version, bin: path.join(under, version, "bin") } : null;
}

/** A PostgreSQL server of a test's own: on a port of its own, its files in a folder of its own, gone afterwards. */
export class TestPostgres {
  private readonly folder = mkdtempSync(path.join(tmpdir(), "upwind-pg-"));
  /** Debian's own cluster, made as its packages make them, where this user may; else one made by hand. */
  private readonly cluster = `upwind${process.pid}x${Math.floor(Math.random() * 1e6)}`;
  private readonly byPackage = process.getuid?.() === 0;
  private made = 0;

  /** @param port of a server that is already and is left standing */
  constructor(
    private readonly programs: NonNullable<ReturnType<typeof postgresPrograms>>,
    public port = 0,
  ) {
    this.shared = port > 0;
  }
  /** Whether others use it too: it is not to be stopped. */
  readonly shared: boolean;

  private run(command: string, ...args: string[]): void {
    const done = spawnSync(command, args, { encoding: "utf8" });
    if (done.status !== 0) throw new Error(`${command} ${args.join(" ")}: ${done.stderr || done.stdout || done.error?.message}`);
  }

  async start(): Promise<void> {
    if (this.shared) return;
    this.port ||= await freePort();
    const { version, bin } = this.programs;
    if (this.byPackage) {
      if (this.made === 0) {
        this.run("chown", "postgres:postgres", this.folder);
        this.run(
          "pg_createcluster",
          version,
          this.cluster,
          "--port",
          String(this.port),
          "--datadir",
          path.join(this.folder, "data"),
          "--",
          "--auth=trust",
          "--encoding=UTF8",
          "--locale=C.UTF-8",
        );
      }
      this.run("pg_ctlcluster", version, this.cluster, "start");
    } else {
      if (this.made === 0)
        this.run(path.join(bin, "initdb"), "-D", path.join(this.folder, "data"), "--auth=trust", "--username=postgres", "--encoding=UTF8", "--locale=C.UTF-8");
      this.run(
        path.join(bin, "pg_ctl"),
        "-D",
        path.join(this.folder, "data"),
        "-w",
        "-l",
        path.join(this.folder, "log"),
        "-o",
        `-p ${this.port} -k ${this.folder} -h 127.0.0.1`,
        "start",
      );
    }
    this.made ||= 1;
  }

  /** @param how "fast" breaks every connection off, "immediate" is a power cut */
  stop(how: "fast" | "immediate" = "fast"): void {
    const { version, bin } = this.programs;
    if (this.byPackage) this.run("pg_ctlcluster", version, this.cluster, "stop", "-m", how);
    else this.run(path.join(bin, "pg_ctl"), "-D", path.join(this.folder, "data"), "-w", "-m", how, "stop");
  }

  /** Address of a new and empty database. */
  database(): string {
    const name = `shed_${this.shared ? `${process.pid}_${Date.now()}_` : ""}${this.made++}`;
    execFileSync("psql", ["-h", "127.0.0.1", "-p", String(this.port), "-U", "postgres", "-q", "-c", `create database ${name}`, "postgres"]);
    return `postgres://postgres@127.0.0.1:${this.port}/${name}`;
  }

  remove(): void {
    if (this.shared) return;
    const { version, bin } = this.programs;
    if (this.byPackage) spawnSync("pg_dropcluster", ["--stop", version, this.cluster]);
    else spawnSync(path.join(bin, "pg_ctl"), ["-D", path.join(this.folder, "data"), "-m", "immediate", "stop"]);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** A server for the tests of one file (or, where `UPWIND_TEST_POSTGRES` gives a port, the one that is there), or null with a loud line where there is none to be had. */
export async function startPostgres(): Promise<TestPostgres | null> {
  const programs = postgresPrograms();
  if (!programs) {
    console.error("\n!!! PostgreSQL is not installed and could not be: everything that is to be tried on it is SKIPPED.\n");
    return null;
  }
  const server = new TestPostgres(programs, Number(process.env.UPWIND_TEST_POSTGRES ?? 0));
  await server.start();
  return server;
}
