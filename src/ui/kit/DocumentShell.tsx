"use client";
import { type ReactNode, useCallback, useState } from "react";
import { useStore } from "zustand";
import type { AnyDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import type { ConflictFrameProps } from "./ConflictFrame";
import type { Conflict, DocumentStore } from "./documentStore";
import { later } from "./later";
import { PageTitle } from "./PageTitle";
import { Rail, RailSwitches } from "./Rail";
import { ShortcutsDialog } from "./Shortcuts";
import type { Shortcut } from "./ShortcutsFrame";
import { useAutosave } from "./useAutosave";

const Notice = later<{ notice: string | null; onClose: () => void }>(
  () => import("./DocumentNotice").then((module) => module.DocumentNotice),
  ({ notice }) => notice !== null,
);
const ConflictDialog = later<ConflictFrameProps<unknown>>(
  () => import("./ConflictFrame").then((module) => module.ConflictFrame),
  ({ conflict }) => conflict !== null,
);

/** The strip above an open document: the page's title, the document's name as its heading, and the Rod. @param view the open view's name; false for the document itself */
export function DocumentHeader({ name, view, children }: { name: string; view: string | false; children: ReactNode }) {
  return (
    <header className="rod-strip">
      <PageTitle parts={[name, view]} />
      <h1 className="visually-hidden">{name}</h1>
      {children}
    </header>
  );
}

/**
 * What every open document has around its views: the rail, autosave, the list of shortcuts, notices and the dialog of a conflict.
 * @param rail buttons of the rail
 * @param keys the document's keys; they open the list of shortcuts
 * @param conflict both versions of a part that two people changed
 */
export function DocumentShell<T extends AnyDocument>({
  store,
  current,
  className = "",
  ready = true,
  rail,
  keys,
  shortcuts,
  conflict,
  children,
}: {
  store: DocumentStore<T>;
  /** the rail's place */
  current: DocumentId | "desk";
  className?: string;
  /** whether the keys listen */
  ready?: boolean;
  rail: ReactNode;
  keys: (onShortcuts: () => void) => ReactNode;
  shortcuts: readonly Shortcut[];
  conflict: (conflict: Conflict<T>) => ReactNode;
  children: ReactNode;
}) {
  const notice = useStore(store, (state) => state.notice);
  const open = useStore(store, (state) => state.conflict);
  const [listed, setListed] = useState(false);
  const onShortcuts = useCallback(() => setListed(true), []);
  useAutosave(store);
  return (
    <div className={`desk ${className}`} data-keys={ready ? "on" : "off"}>
      {keys(onShortcuts)}
      <Rail current={current}>
        <hr />
        {rail}
        <span className="spring" />
        <RailSwitches onShortcuts={onShortcuts} />
      </Rail>
      {children}
      <ShortcutsDialog open={listed} onClose={() => setListed(false)} rows={shortcuts} />
      <Notice notice={notice} onClose={() => store.setState({ notice: null })} />
      <ConflictDialog one={DOCUMENT_NAMES[store.kind].one} conflict={open} onResolve={store.resolve}>
        {conflict as (conflict: Conflict<unknown>) => ReactNode}
      </ConflictDialog>
    </div>
  );
}
