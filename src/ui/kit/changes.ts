import { useEffect, useRef, useState } from "react";
import type { Change } from "@/contract/changes/contract";
import { openEvents } from "./events";

type Listener = (change: Change) => void;

/** Changes of one moment are looked at together, ms. */
const TOGETHER_MS = 150;

const listeners = new Set<Listener>();
let leave: (() => void) | null = null;
/** Which document this page has open, as others see it, and a number by which it recognises its own message. */
let at: string | null = null;
const ownPage = () => {
  const bytes = new Uint8Array(8);
  crypto.getRandomValues(bytes);
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
};
let page: string | null = null;
/** The first word of the page's first connection is for those that were away: this page has just looked. */
let started = false;

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
            if (look && !started) {
              started = true;
              return;
            }
            // A message of a newer server that this page does not know is a reason to read again.
            for (const onMessage of listeners) onMessage(read.success ? read.data : {});
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
export interface PresentPerson {
  page: string;
  by: string | null;
}
/** Not heard of for so long, somebody has gone without a word, ms. */
const AWAY_MS = 30_000;

/** Announces that this page has a document open, and reports who else has. @param place such as "cutters/ID"; null for the demo */
export function usePresence(place: string | null): readonly PresentPerson[] {
  const [others, setOthers] = useState<readonly (PresentPerson & { lastReportMs: number })[]>([]);
  useEffect(() => {
    if (place === null) return;
    at = place;
    // Again, so that the server hears of it.
    leave?.();
    leave = null;
    const end = watchChanges((change) => {
      if (change.table !== "presence" || change.at !== place || !change.page || change.page === page) return;
      const { page: theirs, by = null, gone } = change;
      setOthers((all) => [...all.filter((each) => each.page !== theirs), ...(gone ? [] : [{ page: theirs, by: by ?? null, lastReportMs: Date.now() }])]);
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
const old = ({ lastReportMs }: { lastReportMs: number }) => Date.now() - lastReportMs > AWAY_MS;

/** Hears what other pages, and other processes, changed; a change that says nothing of itself means that something may have been missed. @returns what ends it */
export function watchChanges(onMessage: Listener): () => void {
  if (listeners.size === 0) document.addEventListener("visibilitychange", attend);
  listeners.add(onMessage);
  attend();
  return () => {
    listeners.delete(onMessage);
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
    const end = watchChanges(({ table }) => {
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
