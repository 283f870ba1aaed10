import { useEffect, useRef } from "react";
import type { Change } from "@/contract/changes/contract";

type Heard = (change: Change) => void;

/** Changes of one moment are looked at together, ms. */
const TOGETHER_MS = 150;

const listeners = new Set<Heard>();
let source: EventSource | null = null;
/** The first word of the page's first connection is for those that were away: this page has just looked. */
let begun = false;

/** One connection a page, and only while it is seen: a browser has few for one server. */
function attend(): void {
  const wanted = listeners.size > 0 && document.visibilityState === "visible";
  if (wanted && !source) {
    source = new EventSource("/api/changes");
    source.onmessage = ({ data }) => {
      void import("@/contract/changes/contract").then(
        ({ changeSchema }) => {
          const read = changeSchema.safeParse(JSON.parse(String(data) || "{}"));
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
    };
  } else if (!wanted && source) {
    source.close();
    source = null;
  }
}

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
