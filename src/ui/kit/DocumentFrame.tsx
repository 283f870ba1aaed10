"use client";
import type { ReactNode } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useStore } from "zustand";
import type { AnyDocument } from "@/core/kernel/document";
import { DocumentHeader, DocumentShell } from "./DocumentShell";
import { type AnyStore, DocumentActions, DocumentName, useDocumentKeys } from "./DocumentStatus";
import type { Conflict, DocumentStore } from "./documentStore";
import { HOTKEYS } from "./hotkeys";
import { RailButton } from "./Rail";
import type { Shortcut } from "./ShortcutsFrame";

export interface DocumentStep<Id extends string> {
  id: Id;
  words: string;
  /** the number key that opens it */
  hotkey?: string;
}

/**
 * The frame of an open document: the rail with its steps, the Rod, the name, the actions, the notices, and at the right the view of the open step.
 * @param steps the first is the document itself, and is left out of the page's title
 * @param links further buttons of the rail
 * @param status before the actions
 * @param column next to the view, what the document is made of; null where the view is alone
 * @param conflict both versions of a part that two people changed
 * @param children dialogs and live regions
 */
export function DocumentFrame<T extends AnyDocument, Id extends string>({
  store,
  className = "",
  steps,
  step,
  onStep,
  links,
  rod,
  status,
  column,
  view,
  shortcuts,
  conflict,
  children,
}: {
  store: DocumentStore<T>;
  className?: string;
  steps: readonly DocumentStep<Id>[];
  step: Id;
  onStep: (step: Id) => void;
  links?: ReactNode;
  rod: ReactNode;
  status?: ReactNode;
  column: ReactNode;
  view: ReactNode;
  shortcuts: readonly Shortcut[];
  conflict: (conflict: Conflict<T>) => ReactNode;
  children?: ReactNode;
}) {
  const any = store as unknown as AnyStore;
  const name = useStore(store, ({ document }) => document.name);
  const { words } = steps.find(({ id }) => id === step) ?? { words: "" };
  return (
    <DocumentShell
      store={store}
      current={store.kind}
      className={`plan-desk ${className}`}
      keys={(onShortcuts) => <StepKeys store={any} steps={steps} onStep={onStep} onShortcuts={onShortcuts} />}
      rail={
        <>
          {steps.map((each) => (
            <RailButton key={each.id} onClick={() => onStep(each.id)} current={step === each.id}>
              {each.words}
            </RailButton>
          ))}
          {links}
        </>
      }
      shortcuts={shortcuts}
      conflict={conflict}
    >
      <DocumentHeader name={name} view={step !== steps[0]?.id && words}>
        {rod}
      </DocumentHeader>
      <main className="desk-main" data-alone={column === null}>
        <div className="bench-column">
          <div className="desk-name">
            <DocumentName store={any} />
          </div>
          <div className="document-actions">
            {status}
            <span className="spring" />
            <DocumentActions store={any} />
          </div>
          {column}
        </div>
        {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and a step without anything to press must scroll by keys too */}
        <section className="window-column plan-column" aria-label={words} tabIndex={0}>
          {view}
        </section>
      </main>
      {children}
    </DocumentShell>
  );
}

/** The keys of a document with steps: a number for each step, and those of every document. */
function StepKeys<Id extends string>({
  store,
  steps,
  onStep,
  onShortcuts,
}: {
  store: AnyStore;
  steps: readonly DocumentStep<Id>[];
  onStep: (step: Id) => void;
  onShortcuts: () => void;
}): null {
  useDocumentKeys(store, onShortcuts);
  useHotkeys(
    "1,2,3,4,5,6,7,8,9",
    (_, { keys }) => {
      const chosen = steps.find(({ hotkey }) => hotkey !== undefined && keys?.includes(hotkey));
      if (chosen) onStep(chosen.id);
    },
    HOTKEYS,
  );
  return null;
}
