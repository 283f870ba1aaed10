import { isIP } from "node:net";

/**
 * How this server is reached: `open` to this computer alone; `phrase` to anyone who knows the workshop's access phrase; `anyone`, by a named choice, to anyone who reaches it.
 * `proxy` holds the addresses of the reverse proxies that may speak for others; empty where none is before it.
 */
export interface AccessMode {
  mode: "open" | "phrase" | "anyone";
  proxy: readonly string[];
}

/** An address as it is compared: IPv4 in IPv6's clothes is IPv4. */
export const plainAddress = (address: string | undefined): string =>
  (address ?? "")
    .replace(/^::ffff:(?=\d+\.)/i, "")
    .replace(/^\[|\]$/g, "")
    .toLowerCase();

/** Whether an address, or a name for it, is this computer's own loopback. */
export const isLoopback = (host: string | undefined): boolean => {
  const address = plainAddress(host);
  return address === "localhost" || address === "::1" || /^127(\.\d+){3}$/.test(address);
};

/** What is in UPWIND_OPEN to let anyone in. */
export const ANYONE = "anyone";

const listed = (text: string | undefined): string[] =>
  (text ?? "")
    .split(",")
    .map((each) => plainAddress(each.trim()))
    .filter((each) => each !== "");

/**
 * The access mode that the start's variables ask for. Beyond loopback, behind a proxy, and for names other than loopback's there must be a phrase.
 * @param env HOST, UPWIND_PROXY, UPWIND_HOSTS, UPWIND_OPEN
 */
export function accessModeOf(env: Readonly<Record<string, string | undefined>>): AccessMode {
  const proxy = listed(env.UPWIND_PROXY);
  const beyond = !isLoopback(env.HOST || "127.0.0.1") || proxy.length > 0 || listed(env.UPWIND_HOSTS).some((name) => !isLoopback(name));
  return { mode: !beyond ? "open" : env.UPWIND_OPEN === ANYONE ? "anyone" : "phrase", proxy };
}

/** The parts of a request's connection and headers that show its origin. */
interface Came {
  remote: string | undefined;
  local: string | undefined;
  headers: Readonly<Record<string, string | string[] | undefined>>;
}

const lastOf = (header: string | string[] | undefined): string | undefined => (Array.isArray(header) ? header.join(",") : header)?.split(",").at(-1)?.trim();

/**
 * Who asks, and whether on a line nobody listens to; or why that is not to be answered. A proxy's word counts only from the address it was said to have.
 * @returns the asker's address, the address of this computer it came to, and whether it came by TLS as far as the proxy
 */
export function requestOrigin(
  { mode, proxy }: AccessMode,
  { remote, local, headers }: Came,
): { client: string; local: string; secure: boolean } | { refused: string } {
  const [from, to] = [plainAddress(remote), plainAddress(local)];
  if (mode === "open") {
    if (!isLoopback(to)) return { refused: "This server was started for its own computer alone. Set HOST and an access phrase to let others in." };
    if (headers["x-forwarded-for"] !== undefined || headers.forwarded !== undefined)
      return { refused: "This comes by a proxy that the app does not know of. Start it with UPWIND_PROXY set to the proxy's address, and an access phrase." };
    return { client: from, local: to, secure: false };
  }
  if (proxy.length === 0) return { client: from, local: to, secure: false };
  if (!proxy.includes(from)) return { refused: "This server answers to its proxy alone (UPWIND_PROXY)." };
  const client = plainAddress(lastOf(headers["x-forwarded-for"]));
  if (isIP(client) === 0) return { refused: "The proxy must say in X-Forwarded-For who asks." };
  if (lastOf(headers["x-forwarded-proto"])?.toLowerCase() !== "https") return { refused: "The proxy must take TLS and say so: X-Forwarded-Proto: https." };
  return { client, local: to, secure: true };
}
