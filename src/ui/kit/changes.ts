import { useEffect, useRef, useState } from "react";
import type { Change } from "@/contract/changes/contract";
import { openEvents } from "./events";

type Heard = (change: Change) => void;

/** Changes of one moment are looked at together, ms. */
const TOGETHER_MS = 150;

const listeners = new Set<Heard>();
let leave: (() => void) | null = null;
/** Which document this page has open, as others are told, and a number by which it knows its own word again. */
let at: string | null = null;
const ownPage = () => {
  const bytes = new Uint8Array(8);
  crypto.getRandomValues(bytes);
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
};
let page: string | null = null;
/** The first word of the page's first connection is for those that were away: this page has just looked. */
let begun = false;

/** One connection a page, and only while it is seen: a browser has few for one server. */
function attend(): void {
  const wanted = listeners.size > 0 && document.visibilityState === "visible";
  if (wanted && !leave) {
    page ??= ownPage();
    leave = openEvents(at === null ? "/api/changes" : `/api/changes?at=${at}&page=${page}`, {
      message: (data) => {
        void import("@/contract/changes/contract").then(
          ({ changeSchema }) => {
            const read = changeSchema.safeParse(JSON.parse(data || "{}"));
            const look = !read.success || read.data.table === undefined;
            if (look && !begun) {
              begun = true;
              return;
            }
            // What a newer server tells and this page does not know is a reason to look again.
            for (const heard of listeners) heard(read.success ? read.data : {});
          },
          () => undefined,
        );
      },
    });
  } else if (!wanted && leave) {
    leave();
    leave = null;
  }
}

/** Somebody else who has the same document open: by name, where they signed in. */
export interface Present {
  page: string;
  by: string | null;
}
/** Not heard of for so long, somebody has gone without a word, ms. */
const AWAY_MS = 30_000;

/** Says that this page has a document open, and tells who else has. @param place such as "cutters/ID"; null for the demo */
export function usePresence(place: string | null): readonly Present[] {
  const [others, setOthers] = useState<readonly (Present & { heardMs: number })[]>([]);
  useEffect(() => {
    if (place === null) return;
    at = place;
    // Again, so that the server hears of it.
    leave?.();
    leave = null;
    const end = hearChanges((change) => {
      if (change.table !== "presence" || change.at !== place || !change.page || change.page === page) return;
      const { page: theirs, by = null, gone } = change;
      setOthers((all) => [...all.filter((each) => each.page !== theirs), ...(gone ? [] : [{ page: theirs, by: by ?? null, heardMs: Date.now() }])]);
    });
    const timer = setInterval(() => setOthers((all) => (all.some(old) ? all.filter((each) => !old(each)) : all)), AWAY_MS / 3);
    return () => {
      clearInterval(timer);
      at = null;
      end();
      setOthers([]);
    };
  }, [place]);
  return others;
}
const old = ({ heardMs }: { heardMs: number }) => Date.now() - heardMs > AWAY_MS;

/** Hears what other pages, and other processes, changed; a change that says nothing of itself means that something may have been missed. @returns what ends it */
export function hearChanges(heard: Heard): () => void {
  if (listeners.size === 0) document.addEventListener("visibilitychange", attend);
  listeners.add(heard);
  attend();
  return () => {
    listeners.delete(heard);
    if (listeners.size === 0) document.removeEventListener("visibilitychange", attend);
    attend();
  };
}

/**
 * Looks again when something of these tables changed elsewhere, once for all that changed at about the same time.
 * @param tables whose changes matter; a change that says nothing of itself always does
 */
export function useChanges(tables: readonly NonNullable<Change["table"]>[], look: () => void): void {
  const now = useRef(look);
  now.current = look;
  const key = tables.join();
  useEffect(() => {
    const wanted = key.split(",");
    let timer: ReturnType<typeof setTimeout> | undefined;
    const end = hearChanges(({ table }) => {
      if (table !== undefined && !wanted.includes(table)) return;
      clearTimeout(timer);
      timer = setTimeout(() => now.current(), TOGETHER_MS);
    });
    return () => {
      clearTimeout(timer);
      end();
    };
  }, [key]);
}
