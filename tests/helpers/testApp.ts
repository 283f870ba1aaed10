import { mkdirSync, mkdtempSync, readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { Access } from "@/server/kernel/access/access";
import { holdAccess } from "@/server/kernel/access/who";
import { CLIENT_HEADER, SECURE_HEADER } from "@/server/kernel/accessGuard";
import { openDatabase } from "@/server/kernel/db/client";
import type { Opened } from "@/server/kernel/db/opened";
import { removeFolders } from "./folders";

const API = "src/app/api";
const ORIGIN = "http://127.0.0.1:3000";
/** Folders of the routes, such as "cutters/[id]/log". */
const ROUTES = readdirSync(API, { recursive: true, encoding: "utf8" })
  .filter((name) => path.basename(name) === "route.ts")
  .map((name) => path.posix.dirname(name.replaceAll("\\", "/")))
  // One that is written out is meant before one that represents anything.
  .sort((a, b) => a.split("[").length - b.split("[").length);

/** Variables of the start that may be set: none stays when another app is entered. */
const STARTS = new Set(["DATABASE_URL", "HOST", "UPWIND_OPEN", "UPWIND_PROXY", "UPWIND_HOSTS", "UPWIND_BACKUPS"]);

type Handler = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;

/** The route of an address, with what is in its brackets. */
function routeTo(pathname: string): { folder: string; params: Record<string, string> } {
  const words = pathname.replace(/^\/api\//, "").split("/");
  for (const folder of ROUTES) {
    const parts = folder.split("/");
    if (parts.length !== words.length || parts.some((part, i) => !part.startsWith("[") && part !== words[i])) continue;
    return { folder, params: Object.fromEntries(parts.flatMap((part, i) => (part.startsWith("[") ? [[part.slice(1, -1), words[i] as string]] : []))) };
  }
  throw new Error(`no route for ${pathname}`);
}

export interface Reply<T = never> {
  status: number;
  body: T;
  bytes: Buffer;
  headers: Headers;
}
interface Asking {
  headers?: Record<string, string>;
  signal?: AbortSignal;
}

/** The app's routes over a database of their own, in this process: what a page asks, without a page and without a server. */
export class TestApp {
  private constructor(
    readonly opened: Opened,
    readonly folder: string,
    readonly access: Access,
  ) {}
  /** Variables of the start, as they are while this app is asked. */
  env: Record<string, string> = {};
  cookie = "";

  static async open(open: () => Promise<Opened> = () => openDatabase(undefined)): Promise<TestApp> {
    const opened = await open();
    const folder = path.join(mkdtempSync(path.join(tmpdir(), "upwind-app-")), "workshop");
    mkdirSync(folder);
    // The least work that a phrase is stretched by: what it costs is tried elsewhere.
    return new TestApp(opened, folder, new Access(async () => opened.db, undefined, 4));
  }

  get db() {
    return this.opened.db;
  }

  /** Other test apps of this process are closed first. */
  enter(): void {
    Object.assign(globalThis, { upwindDatabase: Promise.resolve(this.opened) });
    holdAccess(this.access);
    for (const name of STARTS) delete process.env[name];
    Object.assign(process.env, { UPWIND_DATA: this.folder, ...this.env });
    for (const name of Object.keys(this.env)) STARTS.add(name);
  }

  /** What a route answers, as it answers it. */
  async response(method: string, at: string, body?: unknown, { headers = {}, signal }: Asking = {}): Promise<Response> {
    this.enter();
    const url = new URL(at, ORIGIN);
    const { folder, params } = routeTo(url.pathname);
    const route = (await import(/* @vite-ignore */ `../../src/app/api/${folder}/route.ts`)) as Record<string, Handler>;
    const handler = route[method];
    if (!handler) throw new Error(`no ${method} at ${at}`);
    const raw = typeof body === "string" || body instanceof Uint8Array;
    const request = new Request(url, {
      method,
      headers: {
        host: url.host,
        origin: ORIGIN,
        [CLIENT_HEADER]: "127.0.0.1",
        [SECURE_HEADER]: "0",
        ...(raw ? {} : { "content-type": "application/json" }),
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: raw ? (body as BodyInit) : JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    });
    return handler(request, { params: Promise.resolve(params) });
  }

  async request<T = never>(method: string, at: string, body?: unknown, asking: Asking = {}): Promise<Reply<T>> {
    const response = await this.response(method, at, body, asking);
    const bytes = Buffer.from(await response.arrayBuffer());
    const json = response.headers.get("content-type")?.includes("json") && !response.headers.has("content-disposition");
    return { status: response.status, headers: response.headers, bytes, body: (json ? JSON.parse(bytes.toString("utf8")) : null) as T };
  }

  /** Status, code and field of a refusal. */
  async refusal(method: string, at: string, body?: unknown, asking: Asking = {}): Promise<[status: number, code: string, path?: string]> {
    const { status, body: failure } = await this.request<{ error: { code: string; path?: string } }>(method, at, body, asking);
    return failure.error.path === undefined ? [status, failure.error.code] : [status, failure.error.code, failure.error.path];
  }

  async close(): Promise<void> {
    await this.opened.close();
    removeFolders(path.dirname(this.folder));
  }
}
