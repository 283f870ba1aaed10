"use client";
import "../../kit/theme/screens.css";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { type CutterKind, MAX_FILE_CHARACTERS } from "@/core/cutters/design/vocabulary";
import { CutterDrawing } from "../../cutter/CutterDrawing";
import { VerdictMark } from "../../cutter/VerdictMark";
import { ApiError, api } from "../../kit/api";
import { useChanges } from "../../kit/changes";
import { FileButton } from "../../kit/FileButton";
import { later } from "../../kit/later";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { For, useMember } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";

import type { FindProps } from "./FindCutters";
import type { MenuProps } from "./NewCutterMenu";
import type { RenameProps } from "./Rename";
import type { ListedCutter } from "./rows";
import type { Said, SayingProps } from "./Sayings";

const NewCutterMenu = later<MenuProps>(
  () => import("./NewCutterMenu").then((module) => module.NewCutterMenu),
  ({ anchor }) => anchor !== null,
);
const FindCutters = later<FindProps>(
  () => import("./FindCutters").then((module) => module.FindCutters),
  ({ find, pages }) => pages > 1 || find !== "",
);
const Rename = later<RenameProps>(
  () => import("./Rename").then((module) => module.Rename),
  ({ open }) => open,
);
const Sayings = later<SayingProps>(
  () => import("./Sayings").then((module) => module.Sayings),
  ({ said, unreadable }) => said.kind !== "none" || unreadable.length > 0,
);

/** Every cutter in the shed, a page at a time: made, opened, renamed, copied, put away and brought back. */
export function CutterList({
  cutters,
  deleted,
  deletedTotal,
  unreadable,
  total,
  page,
  pages,
  find,
  empty,
}: {
  cutters: readonly ListedCutter[];
  deleted: readonly { id: string; name: string }[];
  deletedTotal: number;
  unreadable: { id: string; name: string; why: string }[];
  /** Cutters that the search leaves, and the page of them that is shown. */
  total: number;
  page: number;
  pages: number;
  find: string;
  /** Nothing was ever made here. */
  empty: boolean;
}) {
  const { may } = useMember();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [said, setSaid] = useState<Said>({ kind: "none" });
  const [shortcuts, setShortcuts] = useState(false);
  const router = useRouter();
  useChanges(["cutters"], () => router.refresh());

  /** Runs a change, then shows the list as the server now has it; a refusal is said and nothing else happens. */
  const act = async (work: () => Promise<Said | undefined>) => {
    try {
      setSaid((await work()) ?? { kind: "none" });
      router.refresh();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setSaid({ kind: "error", message: error.message });
    }
  };
  const make = (kind: CutterKind) =>
    act(async () => {
      setMenu(null);
      // What a new one starts from comes with the first that is made.
      const { KINDS, newDesign } = await import("@/core/cutters/solve/defaults");
      const made = await api.cutters.create(newDesign(kind, KINDS[kind].name));
      router.push(`/cutters/${made.id}`);
      return undefined;
    });
  const importFile = (chosen: File) =>
    act(async () => {
      if (chosen.size > 4 * MAX_FILE_CHARACTERS)
        return { kind: "error", message: `${chosen.name} is too large for a design: ${MAX_FILE_CHARACTERS} characters at most` };
      await api.cutters.importText(await chosen.text());
      return undefined;
    });

  return (
    <div className="shed">
      <Rail current="cutters">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main>
        <div style={{ display: "flex", gap: 10, alignItems: "center", flexWrap: "wrap" }}>
          <h1 style={{ flex: 1, margin: 0, fontSize: 30 }}>Cutters</h1>
          <FileButton variant="outlined" label="Design file" accept=".json,application/json" onFile={(chosen) => void importFile(chosen)}>
            Import a design
          </FileButton>
          <Button variant="contained" aria-haspopup="menu" onClick={(event) => setMenu(event.currentTarget)}>
            New cutter
          </Button>
          <NewCutterMenu anchor={menu} onMake={(kind) => void make(kind)} onClose={() => setMenu(null)} />
        </div>
        <Sayings
          said={said}
          unreadable={unreadable}
          onClose={() => setSaid({ kind: "none" })}
          onUndo={(id) => void act(async () => void (await api.cutters.restore(id)))}
        />
        <FindCutters find={find} total={total} page={page} pages={pages} />
        {empty ? (
          <EmptyShed onMake={() => void make("bow")} />
        ) : (
          <ul className="cutter-rows">
            {cutters.map((row) => (
              <Row
                key={row.id}
                row={row}
                onRename={(name) =>
                  act(async () => {
                    const { revision, document } = await api.cutters.get(row.id);
                    await api.cutters.save(row.id, revision, { ...document, name });
                    return undefined;
                  })
                }
                onDuplicate={() => act(async () => void (await api.cutters.duplicate(row.id)))}
                onDelete={() =>
                  act(async () => {
                    const { id, document } = await api.cutters.remove(row.id);
                    return { kind: "deleted", id, name: document.name };
                  })
                }
              />
            ))}
          </ul>
        )}
        {deleted.length > 0 && may("keep") && (
          <details>
            <summary style={{ cursor: "pointer", padding: "8px 0" }}>Put away ({deletedTotal})</summary>
            <ul style={{ listStyle: "none", padding: 0, margin: 0 }}>
              {deleted.map((row) => (
                <li key={row.id} style={{ display: "flex", gap: 12, alignItems: "center", padding: "4px 0" }}>
                  <span style={{ overflowWrap: "anywhere" }}>{row.name}</span>
                  <Button size="small" onClick={() => void act(async () => void (await api.cutters.restore(row.id)))}>
                    Bring back
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

function EmptyShed({ onMake }: { onMake: () => void }) {
  return (
    <div style={{ margin: "60px 0", maxWidth: 560 }}>
      <CutterDrawing kind="bow" />
      <p style={{ fontSize: 20, lineHeight: 1.5 }}>
        A cutter here is a wire, a supply and a foam, solved together so that you know before you plug in whether it cuts cleanly.
      </p>
      <p className="empty-acts">
        <Button variant="contained" size="large" component={Link} href="/start">
          Start from the job
        </Button>
        <Button variant="outlined" size="large" onClick={onMake}>
          Make an empty bow
        </Button>
        <Button size="large" component={Link} href="/demo/long-tom">
          Look round a demo cutter
        </Button>
      </p>
    </div>
  );
}

interface RowProps {
  row: ListedCutter;
  onRename: (name: string) => Promise<void>;
  onDuplicate: () => void;
  onDelete: () => void;
}

function Row({ row, onRename, onDuplicate, onDelete }: RowProps) {
  const { system } = useUnits();
  const [renaming, setRenaming] = useState(false);
  const { name } = row;
  const { line, detail } = row.said[system];
  return (
    <li data-cutter={name}>
      <CutterDrawing kind={row.kind} />
      <div>
        <Rename
          open={renaming}
          name={name}
          onEnd={(next) => {
            setRenaming(false);
            if (next !== null && next !== name) void onRename(next);
          }}
        />
        {!renaming && (
          <h2>
            <Link href={`/cutters/${row.id}`} style={{ color: "inherit" }}>
              {name}
            </Link>
          </h2>
        )}
        <p>
          {line}
          {row.changedBy && <small className="row-by">, saved by {row.changedBy}</small>}
        </p>
      </div>
      <div className="verdict-mark" data-verdict={row.verdict} title={detail}>
        <VerdictMark verdict={row.verdict} />
        {row.verdictWord}
      </div>
      <div className="row-actions" style={{ display: "flex", flexWrap: "wrap" }}>
        <For who="work">
          <Button size="small" aria-label={`Rename ${name}`} onClick={() => setRenaming(true)}>
            Rename
          </Button>
          <Button size="small" aria-label={`Copy ${name}`} onClick={onDuplicate}>
            Copy
          </Button>
        </For>
        <Button size="small" aria-label={`Export ${name}`} href={`/api/cutters/${row.id}/file`}>
          Export
        </Button>
        <For who="keep">
          <Button size="small" aria-label={`Delete ${name}`} onClick={onDelete}>
            Delete
          </Button>
        </For>
      </div>
    </li>
  );
}
