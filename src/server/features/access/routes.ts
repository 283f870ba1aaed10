import { ACCESS } from "@/contract/access/contract";
import { SESSION_S } from "../../kernel/access/access";
import { accessModeOf } from "../../kernel/access/accessMode";
import { admit, heldAccess, SESSION_COOKIE } from "../../kernel/access/who";
import { CLIENT_HEADER, SECURE_HEADER } from "../../kernel/accessGuard";
import { ServerError } from "../../kernel/errors";
import { mutation, query } from "../../kernel/http";
import { jsonResponse, readBody } from "../../kernel/route";

function held() {
  const access = heldAccess();
  if (!access) throw new ServerError("sign-in", 503, "The workshop is not open yet: try again in a moment.");
  return access;
}

/** The session's cookie: out of the page's own reach, sent to this site alone, and by TLS alone where that is how it came. */
function withCookie(response: Response, request: Request, value: string, seconds: number): Response {
  const secure = request.headers.get(SECURE_HEADER) === "1";
  response.headers.append("set-cookie", `${SESSION_COOKIE}=${value}; Path=/; Max-Age=${seconds}; HttpOnly; SameSite=Lax${secure ? "; Secure" : ""}`);
  response.headers.set("cache-control", "no-store");
  return response;
}

/** What the routes about who may come in do. */
export const accessRoutes = {
  signIn: mutation(async (request: Request) => {
    const { name, phrase, passphrase } = await readBody(request, ACCESS.signIn);
    if (accessModeOf(process.env).mode !== "phrase") throw new ServerError("sign-in", 409, "This workshop is open: nobody needs to sign in.");
    const { member, cookie } = await held().signIn(name, phrase, request.headers.get(CLIENT_HEADER) ?? "", passphrase);
    return withCookie(jsonResponse(ACCESS.signIn, { name: member.name, role: member.role }), request, encodeURIComponent(cookie), SESSION_S);
  }, null),

  signOut: mutation(async (request: Request) => {
    const member = await admit(request, "look");
    if (member) await held().signOut(member);
    return withCookie(jsonResponse(ACCESS.signOut, {}), request, "", 0);
  }, "look"),

  passphrase: mutation(async (request: Request, _context: unknown, member) => {
    const { passphrase } = await readBody(request, ACCESS.passphrase);
    if (!member) throw new ServerError("sign-in", 409, "Nobody signs in here, so nobody has a passphrase.");
    await held().setPassphrase(member.id, passphrase, member.session);
    return jsonResponse(ACCESS.passphrase, { passphrase: passphrase !== null });
  }, "look"),

  members: query(async () => jsonResponse(ACCESS.members, await held().view()), "keep"),

  change: mutation(async (request: Request) => {
    const action = await readBody(request, ACCESS.change);
    const access = held();
    if (action.do === "add") await access.addMember(action.name);
    else if (action.do === "remove") await access.removeMember(action.id);
    else if (action.do === "sign-out") await access.signOutMember(action.id);
    else if (action.do === "remove-passphrase") await access.setPassphrase(action.id, null, null);
    else if (action.do === "phrase") {
      // Anyone who is outside then could not come in to set it right.
      if (action.role === "keep" && action.phrase === null && accessModeOf(process.env).mode === "phrase")
        throw new ServerError("role", 409, "The administrators' phrase can be changed here, not taken away: nobody could set another.", { path: "phrase" });
      await access.setPhrase(action.role, action.phrase);
    } else await access.setOwnNames(action.own);
    return jsonResponse(ACCESS.change, await access.view());
  }, "keep"),
};
