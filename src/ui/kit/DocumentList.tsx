"use client";
import "./theme/screens.css";
import "./documentList.css";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { type ReactNode, useState } from "react";
import { DOCUMENT_NAMES, type DocumentId } from "@/core/kernel/documentIds";
import type { UnreadableRow } from "./api";
import { useChanges } from "./changes";
import { FileButton } from "./FileButton";
import type { ListNoticesProps } from "./ListNotices";
import { later } from "./later";
import { PageTitle } from "./PageTitle";
import { Rail, RailSwitches } from "./Rail";
import type { RenameProps } from "./Rename";
import { ShortcutsDialog } from "./Shortcuts";
import type { ListActions, ListNotice } from "./useListActions";
import { For, useMember } from "./useMember";

const Rename = later<RenameProps>(
  () => import("./Rename").then((module) => module.Rename),
  ({ open }) => open,
);
const ListNotices = later<ListNoticesProps>(
  () => import("./ListNotices").then((module) => module.ListNotices),
  ({ notice, unreadable }) => notice !== null || unreadable.length > 0,
);

/** One row: what any list shows of a document. */
export interface ListedDocument {
  id: string;
  name: string;
  changedBy: string | null;
  drawing: ReactNode;
  /** the document in one line */
  line: ReactNode;
  /** a judgement between the line and the actions */
  mark?: ReactNode;
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

/**
 * The list of one kind of document: import, open, rename, copy, export, archive and restore.
 * @param create the buttons that make a new one
 * @param children between the heading and the rows, such as a search
 * @param empty in place of the rows where there are none
 */
export function DocumentList({
  kind,
  rows,
  archived,
  archivedTotal = archived.length,
  unreadable,
  maxCharacters,
  notice,
  actions,
  create,
  empty,
  children,
}: {
  kind: DocumentId;
  rows: readonly ListedDocument[];
  archived: readonly { id: string; name: string }[];
  archivedTotal?: number;
  unreadable: readonly UnreadableRow[];
  maxCharacters: number;
  notice: ListNotice | null;
  actions: ListActions;
  create: ReactNode;
  empty: ReactNode;
  children?: ReactNode;
}) {
  const { one } = DOCUMENT_NAMES[kind];
  const { may } = useMember();
  const [shortcuts, setShortcuts] = useState(false);
  const router = useRouter();
  useChanges([kind], () => router.refresh());
  return (
    <div className="shed">
      <PageTitle parts={[capital(kind)]} />
      <Rail current={kind}>
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <div className="list-head">
          <h1>{capital(kind)}</h1>
          <FileButton
            variant="outlined"
            label={`${capital(one)} file`}
            accept=".json,application/json"
            onFile={(chosen) => void actions.importFile(chosen, maxCharacters)}
          >
            Import a {one}
          </FileButton>
          {create}
        </div>
        <ListNotices notice={notice} unreadable={unreadable} one={one} onClose={actions.forget} onUndo={(id) => void actions.restore(id)} />
        {children}
        {rows.length === 0 ? (
          empty
        ) : (
          <ul className={`document-rows ${rows.some(({ mark }) => mark) ? "marked" : ""}`}>
            {rows.map((row) => (
              <Row key={row.id} kind={kind} row={row} actions={actions} />
            ))}
          </ul>
        )}
        {archived.length > 0 && may("keep") && (
          <details className="archived">
            <summary>Archived ({archivedTotal})</summary>
            <ul>
              {archived.map(({ id, name }) => (
                <li key={id} className="archived-row">
                  <span>{name}</span>
                  <Button size="small" aria-label={`Restore ${name}`} onClick={() => void actions.restore(id)}>
                    Restore
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        )}
      </main>
      <ShortcutsDialog open={shortcuts} onClose={() => setShortcuts(false)} rows={[{ keys: "Tab, Enter", does: "reach and press anything on this page" }]} />
    </div>
  );
}

function Row({ kind, row, actions }: { kind: DocumentId; row: ListedDocument; actions: ListActions }) {
  const [renaming, setRenaming] = useState(false);
  const { id, name } = row;
  return (
    <li {...{ [`data-${DOCUMENT_NAMES[kind].one}`]: name }}>
      {row.drawing}
      <div>
        <Rename
          open={renaming}
          name={name}
          onEnd={(next) => {
            setRenaming(false);
            if (next !== null && next !== name) void actions.rename(id, next);
          }}
        />
        {!renaming && (
          <h2>
            <Link href={`/${kind}/${id}`}>{name}</Link>
          </h2>
        )}
        <p>
          {row.line}
          {row.changedBy && <small className="row-by">, saved by {row.changedBy}</small>}
        </p>
      </div>
      {row.mark}
      <div className="row-actions">
        <For who="work">
          <Button size="small" aria-label={`Rename ${name}`} onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button size="small" aria-label={`Copy ${name}`} onClick={() => void actions.copy(id)}>
            Copy
          </Button>
        </For>
        <Button size="small" aria-label={`Export ${name}`} href={`/api/${kind}/${id}/file`}>
          Export
        </Button>
        <For who="keep">
          <Button size="small" aria-label={`Archive ${name}`} onClick={() => void actions.archive(id)}>
            Archive
          </Button>
        </For>
      </div>
    </li>
  );
}
