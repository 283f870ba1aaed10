"use client";
import "../../kit/theme/screens.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { ITEM_KINDS, ITEM_NAMES, type ItemKind } from "@/core/drawer/things";
import { useQueryParameter } from "../../kit/address";
import type { DrawerRow, UnreadableRow } from "../../kit/api";
import { FileButton } from "../../kit/FileButton";
import { onDemand } from "../../kit/later";
import { PageTitle } from "../../kit/PageTitle";
import { Rail, RailSwitches } from "../../kit/Rail";
import { ShortcutsDialog } from "../../kit/Shortcuts";
import { Tile, TileRow } from "../../kit/Tile";
import { UnreadableRows } from "../../kit/UnreadableRows";
import { useDrawer } from "./useDrawer";

// The table and the forms bring packages and schemas along: the page is before they are there.
const DrawerTable = onDemand(() => import("./DrawerTable").then((module) => module.DrawerTable));
const AddItem = onDemand(() => import("./AddItem").then((module) => module.AddItem));
const CsvImport = onDemand(() => import("./CsvImport").then((module) => module.CsvImport));

/** What the maker owns or can buy: spools, supplies, controls, leads, springs, fuses and foam. */
export function Drawer({ rows: first, unreadable }: { rows: DrawerRow[]; unreadable: UnreadableRow[] }) {
  const { rows, notice, clear, incoming, closeImport, save, remove, choose, fault, add, importRows, restore } = useDrawer(first);
  const [requested, setRequested] = useQueryParameter("kind");
  const kind: ItemKind = ITEM_KINDS.find((each) => each === requested) ?? "wire";
  const setKind = (next: ItemKind) => setRequested(next === "wire" ? "" : next);
  const [search, setSearch] = useQueryParameter("find");
  const [adding, setAddingWord] = useQueryParameter("add");
  const setAdding = (open: boolean) => setAddingWord(open ? "new" : "");
  const [shortcuts, setShortcuts] = useState(false);
  const of = (each: ItemKind) => rows.filter((row) => row.item.kind === each);

  return (
    <div className="shed">
      <PageTitle parts={["Drawer"]} />
      <Rail current="drawer">
        <span className="spring" />
        <RailSwitches onShortcuts={() => setShortcuts(true)} />
      </Rail>
      <main style={{ maxWidth: "none" }}>
        <div style={{ display: "flex", gap: 10, alignItems: "center", flexWrap: "wrap", marginBottom: 14 }}>
          <h1 style={{ flex: 1, margin: 0, fontSize: 30 }}>Drawer</h1>
          <TextField size="small" label="Search" value={search} onChange={(event) => setSearch(event.target.value, "replace")} sx={{ width: 190 }} />
          <Button href="/api/drawer/file">Export CSV</Button>
          <FileButton variant="outlined" label="Drawer file" accept=".csv,.tsv,.txt,text/csv" onFile={(chosen) => void choose(chosen)}>
            Import CSV
          </FileButton>
          <Button variant="contained" onClick={() => setAdding(true)}>
            Add a {ITEM_NAMES[kind].one}
          </Button>
        </div>
        {notice.kind === "fault" && (
          <Alert severity="error" onClose={clear} sx={{ mb: 2 }}>
            {notice.message}
          </Alert>
        )}
        <UnreadableRows rows={unreadable} what="thing" />
        <TileRow>
          {ITEM_KINDS.map((each) => (
            <Tile key={each} chosen={each === kind} onClick={() => setKind(each)}>
              {ITEM_NAMES[each].many} <span className="num">{of(each).length}</span>
            </Tile>
          ))}
        </TileRow>
        {rows.length === 0 && (
          <p style={{ maxWidth: 640 }}>
            Put in what you have, and <strong>Matches</strong> will say what it can cut. Start with the plate of any supply you own.
          </p>
        )}
        <div style={{ marginTop: 12 }}>
          <DrawerTable key={kind} kind={kind} rows={of(kind)} search={search} onSave={save} onFault={fault} onRemove={remove} />
        </div>
        <p style={{ fontSize: 14, color: "var(--graphite-soft)" }}>Press a cell twice, or Enter, to change it; type any unit. Prices are in your own money.</p>
      </main>
      {adding && <AddItem key={kind} kind={kind} open onClose={() => setAdding(false)} onAdd={add} />}
      {incoming && <CsvImport name={incoming.name} rows={incoming.rows} onClose={closeImport} onTake={() => importRows(incoming.text)} />}
      <ShortcutsDialog
        open={shortcuts}
        onClose={() => setShortcuts(false)}
        rows={[
          { keys: "Enter", does: "change the cell, and keep what was typed" },
          { keys: "Esc", does: "leave the cell as it was" },
          { keys: "arrows", does: "from cell to cell" },
        ]}
      />
      <Snackbar open={notice.kind === "removed" || notice.kind === "done"} autoHideDuration={9000} onClose={clear}>
        <Alert
          severity="info"
          variant="filled"
          action={
            notice.kind === "removed" ? (
              <Button color="inherit" onClick={() => restore(notice.row)}>
                Undo
              </Button>
            ) : undefined
          }
        >
          {notice.kind === "removed" ? `${notice.row.item.name} removed.` : notice.kind === "done" ? notice.message : ""}
        </Alert>
      </Snackbar>
    </div>
  );
}
