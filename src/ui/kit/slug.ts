/** A name as an address has it: "Setting card" is setting-card. Read by pages on the server too. */
export const slugOf = (name: string) => name.toLowerCase().replaceAll(" ", "-");
