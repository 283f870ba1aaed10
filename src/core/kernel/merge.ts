import { canonical } from "./canonical";

/**
 * How a key of a document changes: a label where it changes as one; `each` field of it apart, with labels; named `groups` of its fields, `rest` for those no group names;
 * together `with` other keys, which then say null; null also for what never changes.
 */
export type PartOf<T, K extends keyof T> =
  | string
  | null
  | { each: { readonly [F in keyof Required<NonNullable<T[K]>>]: string } }
  | { groups: Readonly<Record<string, readonly (keyof NonNullable<T[K]>)[] | "rest">> }
  | { label: string; with: readonly (keyof T)[] };

/** How every key of a document changes: none may be left out, or two people's changes of it would be lost. */
export type PartsOf<T> = { readonly [K in keyof Required<T>]: PartOf<T, K> };

interface Part<T> {
  label: string;
  read: (document: T) => unknown;
  write: (onto: T, from: T) => T;
}

type Fields = Record<string, unknown>;

function partsOf<T extends object>(parts: PartsOf<T>): Part<T>[] {
  const flat: Part<T>[] = [];
  for (const [key, part] of Object.entries(parts) as [keyof T, PartOf<T, keyof T>][]) {
    const fieldsOf = (document: T) => (document[key] ?? {}) as Fields;
    if (part === null) continue;
    if (typeof part === "string") flat.push({ label: part, read: (document) => document[key], write: (onto, from) => ({ ...onto, [key]: from[key] }) });
    else if ("with" in part) {
      const keys = [key, ...part.with];
      flat.push({
        label: part.label,
        read: (document) => keys.map((each) => document[each]),
        write: (onto, from) => ({ ...onto, ...Object.fromEntries(keys.map((each) => [each, from[each]])) }),
      });
    } else if ("each" in part) {
      for (const [field, label] of Object.entries(part.each) as [string, string][])
        flat.push({
          label,
          read: (document) => fieldsOf(document)[field],
          write: (onto, from) => ({ ...onto, [key]: { ...fieldsOf(onto), [field]: fieldsOf(from)[field] } }),
        });
    } else {
      const named = Object.values(part.groups).flatMap((fields) => (fields === "rest" ? [] : fields)) as string[];
      for (const [label, fields] of Object.entries(part.groups)) {
        const belongs = (field: string) => (fields === "rest" ? !named.includes(field) : (fields as readonly string[]).includes(field));
        const only = (document: T, wanted: (field: string) => boolean) =>
          Object.fromEntries(Object.entries(fieldsOf(document)).filter(([field]) => wanted(field)));
        flat.push({
          label,
          read: (document) => only(document, belongs),
          write: (onto, from) => ({ ...onto, [key]: { ...only(onto, (field) => !belongs(field)), ...only(from, belongs) } }),
        });
      }
    }
  }
  return flat;
}

export interface Merge<T> {
  /** Their document with every change of mine that does not meet one of theirs. */
  merged: T;
  /** Parts both changed, differently. `merged` holds theirs; {@link Merge.withMine} holds mine. */
  clashes: string[];
  withMine: T;
  /** Parts taken over from them. */
  theirs: string[];
}

/** Compares and joins documents of one kind, part by part. */
export interface Merger<T> {
  same: (a: T, b: T) => boolean;
  /** @param base what both started from */
  merge: (base: T, mine: T, theirs: T) => Merge<T>;
  /** Applies what they changed since a base to any document; their values replace that one's. */
  rebase: (base: T, theirs: T) => (onto: T) => T;
}

/** @param parts how every key of the document changes */
export function mergerOf<T extends object>(parts: PartsOf<T>): Merger<T> {
  const all = partsOf(parts);
  return {
    same: (a, b) => all.every((part) => canonical(part.read(a)) === canonical(part.read(b))),
    merge: (base, mine, theirs) => {
      let merged = theirs;
      let withMine = theirs;
      const clashes: string[] = [];
      const taken: string[] = [];
      for (const part of all) {
        const [b, m, t] = [base, mine, theirs].map((document) => canonical(part.read(document)));
        if (t !== b) taken.push(part.label);
        if (m === b || m === t) continue;
        withMine = part.write(withMine, mine);
        if (t === b) merged = part.write(merged, mine);
        else clashes.push(part.label);
      }
      return { merged, clashes, withMine, theirs: taken };
    },
    rebase: (base, theirs) => {
      const changed = all.filter((part) => canonical(part.read(base)) !== canonical(part.read(theirs)));
      return (onto) => changed.reduce((document, part) => part.write(document, theirs), onto);
    },
  };
}
