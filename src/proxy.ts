import { type NextRequest, NextResponse } from "next/server";

const loopback = new Set(["localhost", "127.0.0.1", "[::1]"]);

/** Names this server answers to: loopback, and what UPWIND_HOSTS adds (comma-separated). Stops another site's name from being pointed here. */
function isOwnHost(host: string | null): boolean {
  if (!host) return false;
  const name = host.replace(/:\d+$/, "").toLowerCase();
  const extra = (process.env.UPWIND_HOSTS ?? "").split(",").map((entry) => entry.trim().toLowerCase());
  return loopback.has(name) || (name !== "" && extra.includes(name));
}

function contentSecurityPolicy(nonce: string): string {
  const dev = process.env.NODE_ENV === "development";
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${dev ? " 'unsafe-eval'" : ""}`,
    // Emotion and drawings set styles from script; no style can run code.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${dev ? " ws:" : ""}`,
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
}

export function proxy(request: NextRequest) {
  if (!isOwnHost(request.headers.get("host"))) {
    return new NextResponse("This address is not one this server answers to. Set UPWIND_HOSTS to add it.\n", { status: 421 });
  }
  const nonce = btoa(crypto.randomUUID());
  const policy = contentSecurityPolicy(nonce);
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", policy);
  return response;
}

export const config = { matcher: ["/((?!_next/static|favicon.ico).*)"] };
