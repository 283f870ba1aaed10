import { z } from "zod";
import { NAME_MOST, PHRASE, ROLES } from "@/core/workshop/roles";
import { endpoint, nothing } from "../kernel/endpoint";

const nameSays = `must be a name of 1 to ${NAME_MOST} characters`;
const name = z
  .string({ error: nameSays })
  .trim()
  .min(1, { error: nameSays })
  .max(NAME_MOST, { error: nameSays })
  // Letters of any script, marks, digits, and what is between parts of a name.
  .regex(/^[\p{L}\p{M}\p{N}][\p{L}\p{M}\p{N} .,'’&()+-]*$/u, { error: "must be a name: letters, digits, blanks and . , ' & ( ) + -" });
const phraseSays = `must have ${PHRASE.least} to ${PHRASE.most} characters`;
const phrase = z.string({ error: phraseSays }).trim().min(PHRASE.least, { error: phraseSays }).max(PHRASE.most, { error: phraseSays });
const role = z.enum(ROLES, { error: `must be one of ${ROLES.join(", ")}` });

const view = z.object({
  phrases: z.object({ look: z.boolean(), work: z.boolean(), keep: z.boolean() }),
  /** whether anyone who has a phrase may come in under a name nobody wrote in */
  ownNames: z.boolean(),
  members: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      role: role.nullable(),
      /** whether the name needs a passphrase of its own */ passphrase: z.boolean(),
      sessions: z.int(),
      seenAt: z.string().nullable(),
    }),
  ),
  activity: z.array(z.object({ at: z.string(), who: z.string(), did: z.string(), on: z.string().nullable(), times: z.int() })),
});
export type AccessView = z.output<typeof view>;

export const ACCESS = {
  signIn: endpoint(
    z.strictObject({
      name,
      phrase: z.string({ error: "must be the phrase" }).min(1, { error: "must be the phrase" }).max(1000, { error: "must be the phrase" }),
      /** the member's own, where the name needs one */
      passphrase: z.string({ error: "must be the passphrase" }).max(1000, { error: "must be the passphrase" }).optional(),
    }),
    z.object({ name: z.string(), role }),
  ),
  signOut: endpoint(nothing, z.object({})),
  /** Sets the passphrase of anyone who asks, or takes it away. */
  passphrase: endpoint(z.strictObject({ passphrase: phrase.nullable() }), z.object({ passphrase: z.boolean() })),
  members: endpoint(nothing, view),
  change: endpoint(
    z.discriminatedUnion(
      "do",
      [
        z.strictObject({ do: z.literal("add"), name }),
        z.strictObject({ do: z.literal("remove"), id: z.uuid({ error: "must be an id" }) }),
        z.strictObject({ do: z.literal("sign-out"), id: z.uuid({ error: "must be an id" }) }),
        z.strictObject({ do: z.literal("phrase"), role, phrase: phrase.nullable() }),
        z.strictObject({ do: z.literal("remove-passphrase"), id: z.uuid({ error: "must be an id" }) }),
        z.strictObject({ do: z.literal("own-names"), own: z.boolean({ error: "must be true or false" }) }),
      ],
      { error: "do must be one of add, remove, sign-out, phrase, remove-passphrase, own-names" },
    ),
    view,
  ),
};
export type AccessAction = z.input<typeof ACCESS.change.request>;
