"use client";
import { usePathname, useSearchParams } from "next/navigation";
import { useCallback } from "react";
import { slugOf } from "./slug";

/**
 * Moves to an address of the page that is open, without asking the server: reload, Back, Forward and a copied link lead there again.
 * The router follows the browser's own history.
 */
const push = (address: string) => window.history.pushState(null, "", address);

/**
 * What of an open document is looked at: the words of the address after its kind and name, such as tension and tuner in /cutters/…/tension/tuner.
 * `go` keeps what the address asks as long as the view stays; `ask` goes somewhere with a question of its own.
 */
export function usePlace(): { place: readonly string[]; go: (...place: string[]) => void; goWithQuery: (place: string, name: string, value: string) => void } {
  const words = usePathname().split("/").filter(Boolean);
  const base = words.slice(0, 2).join("/");
  const view = words[2];
  const go = useCallback(
    (...place: string[]) => push(["", base, ...place].join("/") + (view !== undefined && place[0] === view ? window.location.search : "")),
    [base, view],
  );
  const goWithQuery = useCallback(
    (place: string, name: string, value: string) => push(`/${[base, place].filter(Boolean).join("/")}?${new URLSearchParams({ [name]: value })}`),
    [base],
  );
  return { place: words.slice(2), go, goWithQuery };
}

/**
 * Which of a view's tabs is open, kept in the address after the view's own word.
 * @param tabs their names; the first is open where the address names none
 */
export function useTab<T extends string>(view: string, tabs: readonly T[]): [T, (next: T) => void] {
  const { place, go } = usePlace();
  const open = tabs.find((tab) => slugOf(tab) === place[1]) ?? (tabs[0] as T);
  const set = useCallback((next: T) => (next === tabs[0] ? go(view) : go(view, slugOf(next))), [go, view, tabs]);
  return [open, set];
}

/** A question after the address, such as kind in /drawer?kind=supply; empty where it is not asked. */
export function useQueryParameter(name: string): [string, (next: string, how?: "push" | "replace") => void] {
  const search = useSearchParams();
  const set = useCallback(
    (next: string, how: "push" | "replace" = "push") => {
      const all = new URLSearchParams(window.location.search);
      if (next === "") all.delete(name);
      else all.set(name, next);
      // Where the page is by now: an answer that was waited for may come after a move.
      const address = `${window.location.pathname}${all.size > 0 ? `?${all}` : ""}`;
      if (how === "push") push(address);
      else window.history.replaceState(null, "", address);
    },
    [name],
  );
  return [search.get(name) ?? "", set];
}
