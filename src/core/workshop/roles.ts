/** What a member of the workshop may do, each more than the one before: look at everything, work, keep (archive, restore, backups, members and phrases). */
export const ROLES = ["look", "work", "keep"] as const;
export type Role = (typeof ROLES)[number];

/** What a role is called next to a name. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = { look: "looks", work: "works", keep: "keeps" };

/** Whether someone in this role may do what needs that one. */
export const mayDo = (role: Role, needed: Role): boolean => ROLES.indexOf(role) >= ROLES.indexOf(needed);

/** Length of an access phrase, characters: four or five ordinary words. */
export const PHRASE = { least: 12, most: 200 } as const;
/** Length of a member's name, characters. */
export const NAME_MOST = 60;

/** A phrase as it is compared: composed the same way from any keyboard (Unicode normal form C), blanks at its ends and doubled ones left out. */
export const phraseAsCompared = (typed: string): string => typed.normalize("NFC").trim().replace(/\s+/g, " ");

/** A name as it is shown, and the key by which two names are the same one. */
export const nameAsShown = (typed: string): string => typed.normalize("NFC").trim().replace(/\s+/g, " ");
export const nameKey = (name: string): string => nameAsShown(name).toLocaleLowerCase("en");
