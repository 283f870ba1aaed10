"use client";
import Button from "@mui/material/Button";
import { memo } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useStore } from "zustand";
import type { AnyDocument } from "@/core/kernel/document";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import type { DocumentStore } from "./documentStore";
import { HOTKEYS } from "./hotkeys";
import { NameInput } from "./NameInput";
import { Presence } from "./Presence";
import { SavedMark } from "./SavedMark";
import { useUnits } from "./useUnits";

/** A store of any kind of document. Its change method is used for names only, which every document has. */
export type AnyStore = Pick<DocumentStore<AnyDocument>, "getState" | "setState" | "subscribe" | "getInitialState" | "undo" | "redo" | "flush"> & {
  kind: DocumentId;
  change: (next: never, key?: string) => void;
};

/** The keys of every open document: undo, redo, units, the list of shortcuts. */
export function useDocumentKeys(store: Pick<AnyStore, "undo" | "redo">, onShortcuts: () => void): void {
  const { system, setSystem } = useUnits();
  useHotkeys("mod+z", () => store.undo(), HOTKEYS);
  useHotkeys("mod+y, mod+shift+z", () => store.redo(), HOTKEYS);
  useHotkeys("u", () => setSystem(system === "metric" ? "inch" : "metric"), HOTKEYS);
  useHotkeys("?", () => onShortcuts(), { ...HOTKEYS, useKey: true });
}

/** The name of the document, whether it is saved, and who else has it open. */
export const DocumentName = memo(function DocumentName({ store }: { store: AnyStore }) {
  const name = useStore(store, ({ document }) => document.name);
  const save = useStore(store, (state) => state.save);
  const id = useStore(store, (state) => state.id);
  const { one } = DOCUMENT_NAMES[store.kind];
  return (
    <>
      <NameInput
        label={`${one.charAt(0).toUpperCase()}${one.slice(1)}'s name`}
        name={name}
        onName={(next) => store.change({ ...store.getState().document, name: next } as never, "name")}
      />
      <SavedMark save={save} onRetry={() => void store.flush()} />
      <Presence at={id && `${store.kind}/${id}`} />
    </>
  );
});

/** Undo, redo, and where the document is stored: export. */
export const DocumentActions = memo(function DocumentActions({ store }: { store: AnyStore }) {
  const id = useStore(store, (state) => state.id);
  const canUndo = useStore(store, ({ past }) => past.length > 0);
  const canRedo = useStore(store, ({ future }) => future.length > 0);
  return (
    <>
      <Button size="small" disabled={!canUndo} onClick={() => store.undo()}>
        Undo
      </Button>
      <Button size="small" disabled={!canRedo} onClick={() => store.redo()}>
        Redo
      </Button>
      {id && (
        <Button size="small" href={`/api/${store.kind}/${id}/file`} onClick={() => void store.flush()}>
          Export
        </Button>
      )}
    </>
  );
});
