import { createInterface } from "node:readline";
import { PHRASE, phraseAsCompared, ROLES, type Role } from "@/core/workshop/roles";
import { Access } from "@/server/kernel/access/access";
import { openWorkshop } from "@/server/kernel/db/client";
import { ServerError } from "@/server/kernel/errors";

const HELP = `npm run phrase -- ${ROLES.join("|")} [--none]

Sets the access phrase of those who may look, work or keep; --none takes it away. The phrase is asked for, or read from standard input: never from the command line, which others
can see. Anyone who came in by the old one is signed out. The embedded database has one user at a time: stop the app first.
`;

/** One line of standard input; at a terminal it is asked for, and not shown. */
function askPhrase(): Promise<string> {
  const seen = process.stdin.isTTY === true;
  const lines = createInterface({ input: process.stdin, terminal: seen, ...(seen ? { output: process.stdout } : {}) });
  return new Promise((resolve) => {
    lines.once("line", (line) => {
      // Closing says that it is closed: what was typed is taken first.
      resolve(line);
      lines.close();
      if (seen) process.stdout.write("\n");
    });
    lines.once("close", () => resolve(""));
    if (!seen) return;
    process.stdout.write(`Phrase, ${PHRASE.least} characters or more (four or five ordinary words): `);
    // Typed characters are not written back.
    (lines as unknown as { _writeToOutput: () => void })._writeToOutput = () => undefined;
  });
}

async function main(): Promise<number> {
  const [role, flag, ...rest] = process.argv.slice(2);
  if (!ROLES.includes(role as Role) || (flag !== undefined && flag !== "--none") || rest.length > 0) {
    process.stderr.write(HELP);
    return 2;
  }
  const phrase = flag === "--none" ? null : phraseAsCompared(await askPhrase());
  if (phrase !== null && (phrase.length < PHRASE.least || phrase.length > PHRASE.most)) {
    process.stderr.write(`The phrase must have ${PHRASE.least} to ${PHRASE.most} characters (it has ${phrase.length}).\n`);
    return 2;
  }
  const { db, close } = await openWorkshop();
  try {
    await new Access(async () => db).setPhrase(role as Role, phrase);
    process.stdout.write(
      phrase === null ? `Nobody comes in to ${role} any more.\n` : `The phrase of those who ${role} is set; anyone who had come in by another is signed out.\n`,
    );
    return 0;
  } finally {
    await close();
  }
}

main().then(
  (code) => process.exit(code),
  (error: unknown) => {
    if (!(error instanceof ServerError)) throw error;
    process.stderr.write(`${error.message}\n`);
    process.exit(1);
  },
);
