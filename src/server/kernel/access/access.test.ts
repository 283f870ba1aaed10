import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { engines } from "../../../../tests/helpers/engines";
import type { Opened } from "../db/opened";
import { access as accessTable, auditEntries, members, sessions } from "../db/schema";
import { Access, TRIES } from "./access";
import { hashPhrase, isPhrase } from "./phrases";

const KEEP = "lantern barge on the tide";
const WORK = "paper swan at dusk";
const LOOK = "moon over the marsh";

describe("phrases as they are kept", () => {
  it("are salted and stretched: the same one is never kept alike, and only itself opens", async () => {
    const [one, other] = [await hashPhrase(KEEP), await hashPhrase(KEEP)];
    expect(one).not.toBe(other);
    expect(one).not.toContain("lantern");
    expect(await isPhrase(KEEP, one)).toBe(true);
    expect(await isPhrase(KEEP, other)).toBe(true);
    // Blanks at the ends and doubled, and an accent typed as two signs, are no other phrase.
    expect(await isPhrase(`  ${KEEP.replace(" ", "   ")} `, one)).toBe(true);
    expect(await isPhrase("cafe\u0301 by the water", await hashPhrase("café by the water", 4))).toBe(true);
    for (const wrong of ["", "lantern", KEEP.toUpperCase(), `${KEEP}s`]) expect(await isPhrase(wrong, one)).toBe(false);
    for (const broken of ["", "scrypt$$$", "scrypt$4$AAAA$AAAA", "scrypt$99$AAAA$AAAA", KEEP]) expect(await isPhrase(KEEP, broken)).toBe(false);
  });

  it("by an independent computation: RFC 7914's own vector for N 1024, r 8, p 16", async () => {
    const { scryptSync } = await import("node:crypto");
    // Section 12 of the RFC; what is used here is the same function at a higher cost.
    expect(scryptSync("password", "NaCl", 64, { N: 1024, r: 8, p: 16 }).toString("hex").slice(0, 32)).toBe("fdbabe1c9d3472007856e7190d01e9fe");
    const [, cost, salt, hash] = (await hashPhrase(KEEP)).split("$") as [string, string, string, string];
    expect(cost).toBe("15");
    const own = scryptSync(KEEP, Buffer.from(salt, "base64"), 32, { N: 32768, r: 8, p: 1, maxmem: 2 ** 26 });
    expect(own.toString("base64")).toBe(hash);
  });
});

describe.each(await engines())("who may come in, on %s", (_name, opened) => {
  let own: Opened;
  beforeAll(async () => {
    own = await opened();
  });
  afterAll(() => own.close());
  /** A workshop with two phrases and nobody in it. */
  const workshop = async () => {
    for (const table of [sessions, members, accessTable, auditEntries]) await own.db.delete(table);
    const access = new Access(async () => own.db, undefined, 4);
    await access.setPhrase("keep", KEEP);
    await access.setPhrase("work", WORK);
    return { ...own, access };
  };
  const code = (work: Promise<unknown>) =>
    work.then(
      () => "in",
      (error: { code?: string }) => error.code,
    );

  it("a phrase lets in by its role, under a name that was written in; administrators write themselves in", async () => {
    const { access } = await workshop();
    expect(await code(access.signIn("Glue hand", WORK, "a"))).toBe("unknown-member");
    const administrator = await access.signIn("  Administrator  of keys ", KEEP, "a");
    expect(administrator.member).toMatchObject({ name: "Administrator of keys", role: "keep" });
    await access.addMember("Glue hand");
    const worker = await access.signIn("glue HAND", WORK, "a");
    expect(worker.member).toMatchObject({ name: "Glue hand", role: "work" });
    expect(await access.read(worker.cookie)).toEqual(worker.member);
    expect(await code(access.signIn("Glue hand", LOOK, "a"))).toBe("wrong-phrase");
    await access.setOwnNames(true);
    expect((await access.signIn("Anyone", WORK, "a")).member.name).toBe("Anyone");
  });

  it("a cookie that was made up, changed or given for another workshop is nobody", async () => {
    const { access } = await workshop();
    const { cookie, member } = await access.signIn("Administrator", KEEP, "a");
    expect(await access.read(encodeURIComponent(cookie))).toEqual(member);
    for (const bad of [
      undefined,
      "",
      "x",
      "%",
      cookie.slice(0, -3),
      cookie.replace(/\*[A-Za-z0-9_-]{20}/, `*${"A".repeat(20)}`),
      `${cookie}${"a".repeat(1000)}`,
    ])
      expect(await access.read(bad)).toBeNull();
    const other = await workshop();
    expect(await other.access.read(cookie)).toBeNull();
  });

  it("signing out ends the session for good, on this device alone; striking out a name, or a new phrase, ends them all", async () => {
    const { access } = await workshop();
    const [one, two] = [await access.signIn("Administrator", KEEP, "a"), await access.signIn("Administrator", KEEP, "a")];
    await access.signOut(one.member);
    expect(await access.read(one.cookie)).toBeNull();
    expect(await access.read(two.cookie)).not.toBeNull();
    await access.addMember("Glue hand");
    const worker = await access.signIn("Glue hand", WORK, "a");
    await access.setPhrase("keep", `${KEEP} again`);
    expect(await access.read(two.cookie)).toBeNull();
    expect(await access.read(worker.cookie)).not.toBeNull();
    await access.removeMember(worker.member.id);
    expect(await access.read(worker.cookie)).toBeNull();
    expect(await code(access.removeMember(worker.member.id))).toBe("not-found");
    // Two roles by one phrase would be one role.
    expect(await code(access.setPhrase("look", ` ${WORK}`))).toBe("name-taken");
  });

  it("another process learns of it", async () => {
    const { db, listen, access } = await workshop();
    const second = new Access(async () => db);
    await listen((payload) => {
      if (payload.includes('"access"')) second.forget();
    });
    const { cookie, member } = await access.signIn("Administrator", KEEP, "a");
    expect(await second.read(cookie)).toEqual(member);
    await access.signOut(member);
    for (let i = 0; i < 100 && (await second.read(cookie)) !== null; i++) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(await second.read(cookie)).toBeNull();
  });

  it("remembers who did what, again within half an hour as once more, by the thing's own name", async () => {
    const { access, db } = await workshop();
    const { member } = await access.signIn("Administrator", KEEP, "a");
    for (let i = 0; i < 3; i++) await access.remember(member, "changed a plan", null);
    await access.remember(member, "made a backup", null);
    expect((await access.view()).activity.map(({ did, times, who }) => [who, did, times])).toEqual([
      ["Administrator", "made a backup", 1],
      ["Administrator", "changed a plan", 3],
    ]);
    await db.update(auditEntries).set({ at: new Date(Date.now() - 3600_000) });
    await access.remember(member, "changed a plan", null);
    expect((await access.view()).activity).toHaveLength(3);
    expect((await access.view()).members).toMatchObject([{ name: "Administrator", role: "keep", sessions: 1 }]);
    // Stored hashes of phrases never leave the server.
    const stored = (await db.select().from(accessTable)).map(({ value }) => value);
    for (const value of stored) expect(JSON.stringify(await access.view())).not.toContain(value);
  });

  it("wrong tries are limited by address; right ones cost nothing, and do not take wrong ones back", async () => {
    const { access } = await workshop();
    const tried = (phrase: string, client: string) => code(access.signIn("Administrator", phrase, client));
    for (let i = 0; i < 30; i++) expect(await tried(KEEP, "192.0.2.8")).toBe("in");
    for (let i = 0; i < TRIES.each - 1; i++) expect(await tried("not the phrase", "192.0.2.9")).toBe("wrong-phrase");
    // Anyone who knows the lowest phrase does not get more tries at the highest.
    expect(await tried(KEEP, "192.0.2.9")).toBe("in");
    expect(await tried("not the phrase", "192.0.2.9")).toBe("wrong-phrase");
    expect(await tried(KEEP, "192.0.2.9")).toBe("too-many-tries");
    expect(await tried(KEEP, "192.0.2.10")).toBe("in");
  });

  it("hundreds of wrong tries from one address lock out nobody else", async () => {
    const { access } = await workshop();
    const tried = (phrase: string, client: string) => code(access.signIn("Administrator", phrase, client));
    for (let i = 0; i < 220; i++) await tried("not the phrase", "192.0.2.1");
    expect(await tried(KEEP, "192.0.2.2")).toBe("in");
    // Many addresses together still come to an end.
    for (let i = 0; i < TRIES.all; i++) await tried("not the phrase", `198.51.100.${i}`);
    expect(await tried(KEEP, "192.0.2.3")).toBe("too-many-tries");
  });

  it("a sign-in that races a change of phrase keeps no session of the old one", async () => {
    const { access, db } = await workshop();
    await access.signIn("Administrator", KEEP, "a");
    let [phrase, old] = [KEEP, 0];
    for (let i = 0; i < 12; i++) {
      const next = `${KEEP} ${i}`;
      const [entered] = await Promise.allSettled([access.signIn("Administrator", phrase, `r${i}`), access.setPhrase("keep", next)]);
      access.forget();
      if (entered.status === "fulfilled" && (await access.read(entered.value.cookie)) !== null) old += 1;
      phrase = next;
    }
    expect(old).toBe(0);
    expect(await db.select().from(sessions)).toEqual([]);
  });

  it("a name with a passphrase of its own needs it, anyone who knows the shared phrase", async () => {
    const { access } = await workshop();
    const hand = await access.addMember("Glue hand");
    const [first, second] = [await access.signIn("Glue hand", WORK, "a"), await access.signIn("Glue hand", WORK, "a")];
    await access.setPassphrase(hand.id, "heron on one leg", first.member.session);
    // The one who set it stays in; anyone who else came in under the name does not.
    expect(await access.read(first.cookie)).not.toBeNull();
    expect(await access.read(second.cookie)).toBeNull();
    expect(await code(access.signIn("Glue hand", WORK, "a"))).toBe("passphrase");
    expect(await code(access.signIn("Glue hand", KEEP, "a", "heron on two legs"))).toBe("passphrase");
    expect(await code(access.signIn("glue HAND", WORK, "a", " heron on  one leg "))).toBe("in");
    // The passphrase alone opens nothing.
    expect(await code(access.signIn("Glue hand", "not the phrase", "a", "heron on one leg"))).toBe("wrong-phrase");
    expect((await access.view()).members).toMatchObject([{ name: "Glue hand", passphrase: true }]);
    expect(JSON.stringify(await access.view())).not.toContain("scrypt");
    await access.setPassphrase(hand.id, null, null);
    expect(await code(access.signIn("Glue hand", WORK, "a"))).toBe("in");
    expect(await code(access.setPassphrase("00000000-0000-4000-8000-000000000000", null, null))).toBe("not-found");
  });

  it("a session ends after thirty days, and when its member is signed out", async () => {
    const { access, db } = await workshop();
    const { cookie, member } = await access.signIn("Administrator", KEEP, "a");
    const other = await access.signIn("Administrator", KEEP, "a");
    const day = 24 * 3600_000;
    for (const [days, there] of [
      [29.9, true],
      [30.1, false],
    ] as const)
      expect(
        (await new Access(
          async () => db,
          () => Date.now() + days * day,
          4,
        ).read(cookie)) !== null,
      ).toBe(there);
    await access.signOutMember(member.id);
    expect([await access.read(cookie), await access.read(other.cookie)]).toEqual([null, null]);
  });

  it("from memory it is known who asks while the database does not answer", async () => {
    const { access, db } = await workshop();
    const { cookie, member } = await access.signIn("Administrator", KEEP, "a");
    let away = false;
    const own = new Access(() => (away ? new Promise<never>(() => {}) : Promise.resolve(db)), undefined, 4);
    expect(await own.read(cookie)).toEqual(member);
    away = true;
    own.forget();
    expect(await own.readFromMemory(cookie)).toEqual(member);
    expect(await own.readFromMemory("made up")).toBeNull();
  });
});
