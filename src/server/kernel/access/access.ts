import { randomBytes } from "node:crypto";
import { and, desc, eq, inArray, isNull, ne, notInArray, sql } from "drizzle-orm";
import { sealData, unsealData } from "iron-session";
import { RateLimiterMemory } from "rate-limiter-flexible";
import { nameAsShown, nameKey, ROLES, type Role } from "@/core/workshop/roles";
import type { Database } from "../db/opened";
import { access, auditEntries, cutters, drawerItems, members, plans, rigs, sessions } from "../db/schema";
import { ServerError } from "../errors";
import type { Member } from "./member";
import { COST, hashPhrase, isPhrase } from "./phrases";

/** A session lasts so long, s: thirty days. */
export const SESSION_S = 30 * 24 * 3600;
/** Wrong tries from one address, and from everywhere together, in so long, s. */
export const TRIES = { each: 10, all: 200, inS: 600 } as const;
/** Tries that are checked at once: each takes memory and time. */
const MOST_AT_ONCE = 4;
/** Members are read again after so long even without a notification, ms. */
const STALE_MS = 5000;
/** How many auditEntries are remembered. */
export const MOST_AUDIT_ENTRIES = 5000;
/** The same action of the same member on the same thing counts once in so long. */
const SAME_ENTRY = sql`now() - interval '30 minutes'`;

const KEY = "session-key";
const OWN_NAMES = "own-names";
const phraseKey = (role: Role) => `phrase-${role}`;

interface Known {
  at: number;
  key: string | null;
  phrases: ReadonlyMap<Role, string>;
  ownNames: boolean;
  sessions: ReadonlyMap<string, Member>;
}

/** What an administrator sees of the workshop's members. */
export interface MembersView {
  phrases: Record<Role, boolean>;
  ownNames: boolean;
  members: { id: string; name: string; role: Role | null; passphrase: boolean; sessions: number; seenAt: string | null }[];
  /** `on` is the name of what it was done to, where that has one and is still there */
  activity: { at: string; who: string; did: string; on: string | null; times: number }[];
}

/** Phrases, members and their sessions: who may come in, and as what. */
export class Access {
  private known: Promise<Known> | null = null;
  /** What was last known, however long ago: enough to let somebody stop a wire without waiting for the database. */
  private last: Known | null = null;
  private readonly perAddress = new RateLimiterMemory({ points: TRIES.each, duration: TRIES.inS });
  private readonly together = new RateLimiterMemory({ points: TRIES.all, duration: TRIES.inS });
  private trying = 0;

  constructor(
    private readonly database: () => Promise<Database>,
    private readonly now: () => number = () => Date.now(),
    /** of one try, see {@link keptPhrase} */
    private readonly cost = COST,
  ) {}

  /** Something about members was changed, perhaps by another process. */
  forget(): void {
    this.known = null;
  }

  private async knows(): Promise<Known> {
    const held = await this.known?.catch(() => null);
    if (held && this.now() - held.at < STALE_MS) return held;
    const looking = this.look();
    this.known = looking;
    this.last = await looking;
    return this.last;
  }

  private async look(): Promise<Known> {
    const db = await this.database();
    const at = this.now();
    const facts = new Map((await db.select().from(access)).map(({ key, value }) => [key, value]));
    const rows = await db
      .select({ session: sessions.id, role: sessions.role, createdAt: sessions.createdAt, id: members.id, name: members.name })
      .from(sessions)
      .innerJoin(members, eq(members.id, sessions.memberId));
    return {
      at,
      key: facts.get(KEY) ?? null,
      phrases: new Map(ROLES.flatMap((role) => (facts.has(phraseKey(role)) ? [[role, facts.get(phraseKey(role)) as string]] : []))),
      ownNames: facts.get(OWN_NAMES) === "yes",
      sessions: new Map(
        rows
          .filter(({ createdAt }) => at - createdAt.getTime() < SESSION_S * 1000)
          .map(({ session, role, id, name }) => [session, { id, name, role: role as Role, session }]),
      ),
    };
  }

  /** Whether there is a phrase at all. */
  async hasPhrase(): Promise<boolean> {
    return (await this.knows()).phrases.size > 0;
  }

  /** Anyone who a session's cookie was given to; null for none, a forged one, one that has ended. */
  async read(cookie: string | undefined): Promise<Member | null> {
    return cookie ? this.memberOf(cookie, await this.knows()) : null;
  }

  /** As {@link read}, by what this process last knew: it never waits for the database, except in a process that has not looked yet. */
  async readFromMemory(cookie: string | undefined): Promise<Member | null> {
    return cookie ? this.memberOf(cookie, this.last ?? (await this.knows())) : null;
  }

  private async memberOf(cookie: string, { key, sessions: standing }: Known): Promise<Member | null> {
    if (!key || cookie.length > 1000) return null;
    let session: string | undefined;
    try {
      // A seal that is broken or too old opens as nothing.
      session = (await unsealData<{ session?: string }>(decodeURIComponent(cookie), { password: key, ttl: SESSION_S })).session;
    } catch {
      // Not even a seal.
      return null;
    }
    return (session !== undefined && standing.get(session)) || null;
  }

  /**
   * Lets someone in who knows a phrase, and the member's own passphrase where the name has one. Wrong tries are counted by address and, within each address's budget, all together; right ones cost nothing.
   * @param client address of anyone who asks
   * @param passphrase the member's own
   * @returns who it is, and the cookie's value
   * @throws ServerError `too-many-tries`, `wrong-phrase`, `unknown-member`, `passphrase`
   */
  async signIn(typedName: string, phrase: string, client: string, passphrase?: string): Promise<{ member: Member; cookie: string }> {
    const refund = await this.spend(client);
    if (this.trying >= MOST_AT_ONCE) {
      await refund();
      throw new ServerError("too-many-tries", 429, "Others are signing in at this moment: try again in a few seconds.");
    }
    this.trying += 1;
    try {
      const { role, stored } = await this.roleOf(phrase);
      const db = await this.database();
      const name = nameAsShown(typedName);
      const found = await db
        .select()
        .from(members)
        .where(eq(members.nameKey, nameKey(name)));
      const member = found[0] ?? (role === "keep" || (await this.knows()).ownNames ? await this.addMember(name) : null);
      if (!member) {
        await refund();
        throw new ServerError("unknown-member", 403, "The phrase is right, but no member of this workshop has that name. An administrator writes names in.", {
          path: "name",
        });
      }
      if (member.passphrase !== null) {
        if (passphrase === undefined || passphrase === "") {
          await refund();
          throw new ServerError("passphrase", 401, `${member.name} has a passphrase of their own. Type it too.`, { path: "passphrase" });
        }
        if (!(await isPhrase(passphrase, member.passphrase)))
          throw new ServerError("passphrase", 401, `That is not the passphrase of ${member.name}.`, { path: "passphrase" });
      }
      const session = await this.beginSession(member, role, stored);
      await refund();
      return {
        member: { id: member.id, name: member.name, role, session },
        cookie: await sealData({ session }, { password: await this.sessionKey(), ttl: SESSION_S }),
      };
    } finally {
      this.trying -= 1;
    }
  }

  /** The highest role that a phrase opens, and the phrase as it is stored. @throws ServerError `wrong-phrase` */
  private async roleOf(phrase: string): Promise<{ role: Role; stored: string }> {
    const { phrases } = await this.knows();
    for (const role of [...ROLES].reverse()) {
      const stored = phrases.get(role);
      if (stored !== undefined && (await isPhrase(phrase, stored))) return { role, stored };
    }
    throw new ServerError("wrong-phrase", 401, "That is not the phrase of this workshop.", { path: "phrase" });
  }

  /**
   * Begins a session. The phrase and the passphrase that were checked are compared with the stored ones in the same transaction: one that was changed meanwhile opens nothing.
   * @returns its id
   */
  private async beginSession(member: typeof members.$inferSelect, role: Role, stored: string): Promise<string> {
    const db = await this.database();
    const id = await db.transaction(async (tx) => {
      const [current] = await tx
        .select()
        .from(access)
        .where(eq(access.key, phraseKey(role)))
        .for("share");
      const [still] = await tx.select().from(members).where(eq(members.id, member.id)).for("share");
      if (current?.value !== stored || still?.passphrase !== member.passphrase) return null;
      const [row] = await tx.insert(sessions).values({ memberId: member.id, role }).returning();
      return (row as { id: string }).id;
    });
    this.forget();
    if (id === null) throw new ServerError("wrong-phrase", 401, "The phrase was changed a moment ago: type the new one.", { path: "phrase" });
    return id;
  }

  /** Counts a try. @returns what takes it back, for one that was right */
  private async spend(client: string): Promise<() => Promise<void>> {
    try {
      // The address's own budget first: one that has spent it spends nothing of everybody's.
      await this.perAddress.consume(client);
      await this.together.consume("all");
    } catch (error) {
      if (error instanceof Error) throw error;
      const minutes = Math.max(1, Math.ceil((error as { msBeforeNext: number }).msBeforeNext / 60_000));
      throw new ServerError("too-many-tries", 429, `Too many tries: wait ${minutes} minute${minutes === 1 ? "" : "s"}, then try again.`);
    }
    return async () => {
      await this.perAddress.reward(client);
      await this.together.reward("all");
    };
  }

  /** The key that seals sessions: made once, the same for every process on this database. */
  private async sessionKey(): Promise<string> {
    const db = await this.database();
    await db
      .insert(access)
      .values({ key: KEY, value: randomBytes(32).toString("base64") })
      .onConflictDoNothing();
    const [row] = await db.select().from(access).where(eq(access.key, KEY));
    return (row as { value: string }).value;
  }

  /** Ends a session, wherever its cookie still lies. */
  async signOut(member: Member): Promise<void> {
    await (await this.database()).delete(sessions).where(eq(sessions.id, member.session));
    this.forget();
  }

  /**
   * Sets a role's phrase, or takes it away; sessions that came by the old one end.
   * @throws ServerError `name-taken` for a phrase that another role has
   */
  async setPhrase(role: Role, phrase: string | null): Promise<void> {
    const db = await this.database();
    const { phrases } = await this.look();
    if (phrase !== null)
      for (const [other, saved] of phrases)
        if (other !== role && (await isPhrase(phrase, saved)))
          throw new ServerError("name-taken", 409, "Another role has this very phrase: each needs one of its own.", { path: "phrase" });
    const value = phrase === null ? null : await hashPhrase(phrase, this.cost);
    await db.transaction(async (tx) => {
      await tx.delete(access).where(eq(access.key, phraseKey(role)));
      if (value !== null) await tx.insert(access).values({ key: phraseKey(role), value });
      await tx.delete(sessions).where(eq(sessions.role, role));
    });
    this.forget();
  }

  /** Whether anyone who has a phrase may come in under a name that nobody wrote in before. */
  async setOwnNames(own: boolean): Promise<void> {
    const db = await this.database();
    const value = own ? "yes" : "no";
    await db.insert(access).values({ key: OWN_NAMES, value }).onConflictDoUpdate({ target: access.key, set: { value } });
    this.forget();
  }

  /** Sets a member's own passphrase, or takes it away; the member's other sessions end. @throws ServerError `not-found` */
  async setPassphrase(id: string, passphrase: string | null, session: string | null): Promise<void> {
    const db = await this.database();
    const value = passphrase === null ? null : await hashPhrase(passphrase, this.cost);
    const rows = await db.transaction(async (tx) => {
      const changed = await tx.update(members).set({ passphrase: value }).where(eq(members.id, id)).returning();
      await tx.delete(sessions).where(and(eq(sessions.memberId, id), session === null ? undefined : ne(sessions.id, session)));
      return changed;
    });
    this.forget();
    if (rows.length === 0) throw new ServerError("not-found", 404, "No such member is here any more.");
  }

  /** Writes a member in; one that is there already stays. */
  async addMember(typed: string): Promise<typeof members.$inferSelect> {
    const db = await this.database();
    const name = nameAsShown(typed);
    await db
      .insert(members)
      .values({ name, nameKey: nameKey(name) })
      .onConflictDoNothing();
    const [row] = await db
      .select()
      .from(members)
      .where(eq(members.nameKey, nameKey(name)));
    return row as typeof members.$inferSelect;
  }

  /** Strikes a member out; what he is signed in with ends. @throws ServerError `not-found` */
  async removeMember(id: string): Promise<void> {
    const db = await this.database();
    const rows = await db.transaction(async (tx) => {
      await tx.delete(sessions).where(eq(sessions.memberId, id));
      return tx.delete(members).where(eq(members.id, id)).returning();
    });
    this.forget();
    if (rows.length === 0) throw new ServerError("not-found", 404, "No such member is here any more.");
  }

  /** Ends every session of a member. */
  async signOutMember(id: string): Promise<void> {
    await (await this.database()).delete(sessions).where(eq(sessions.memberId, id));
    this.forget();
  }

  /** What an administrator sees. */
  async view(): Promise<MembersView> {
    const db = await this.database();
    const { phrases, ownNames, sessions: standing } = await this.look();
    const all = await db.select().from(members).orderBy(members.nameKey);
    const done = await db.select().from(auditEntries).orderBy(desc(auditEntries.at)).limit(100);
    const ids = [...new Set(done.flatMap(({ on }) => on ?? []))];
    const names = new Map<string, string>();
    if (ids.length > 0)
      for (const table of [cutters, plans, rigs, drawerItems])
        for (const { id, name } of await db.select({ id: table.id, name: table.name }).from(table).where(inArray(table.id, ids))) names.set(id, name);
    const of = (id: string) => [...standing.values()].filter((each) => each.id === id);
    const seen = new Map(done.map(({ who, at }) => [who, at.toISOString()]).reverse() as [string, string][]);
    return {
      phrases: Object.fromEntries(ROLES.map((role) => [role, phrases.has(role)])) as Record<Role, boolean>,
      ownNames,
      members: all.map(({ id, name, passphrase }) => ({
        id,
        name,
        passphrase: passphrase !== null,
        role: [...ROLES].reverse().find((role) => of(id).some((each) => each.role === role)) ?? null,
        sessions: of(id).length,
        seenAt: seen.get(name) ?? null,
      })),
      activity: done.map(({ at, who, did, on, times }) => ({ at: at.toISOString(), who, did, on: on === null ? null : (names.get(on) ?? null), times })),
    };
  }

  /** Remembers what a member did; again within half an hour it is the same action once more. */
  async remember(member: Member, did: string, on: string | null): Promise<void> {
    const db = await this.database();
    const same = and(
      eq(auditEntries.who, member.name),
      eq(auditEntries.did, did),
      on === null ? isNull(auditEntries.on) : eq(auditEntries.on, on),
      sql`${auditEntries.at} > ${SAME_ENTRY}`,
    );
    const again = await db
      .update(auditEntries)
      .set({ at: sql`now()`, times: sql`${auditEntries.times} + 1` })
      .where(same)
      .returning({ id: auditEntries.id });
    if (again.length > 0) return;
    const [row] = await db.insert(auditEntries).values({ who: member.name, did, on }).returning({ id: auditEntries.id });
    // Now and then what is too old to be looked for is let go.
    if (row && row.id % 100 === 0)
      await db
        .delete(auditEntries)
        .where(notInArray(auditEntries.id, db.select({ id: auditEntries.id }).from(auditEntries).orderBy(desc(auditEntries.id)).limit(MOST_AUDIT_ENTRIES)));
  }
}
