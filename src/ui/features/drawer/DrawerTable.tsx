"use client";
import Button from "@mui/material/Button";
import InputBase from "@mui/material/InputBase";
import Popper from "@mui/material/Popper";
import { DataGrid, type GridColDef, type GridRenderEditCellParams, useGridApiContext } from "@mui/x-data-grid";
import { useMemo, useRef } from "react";
import { type Column, cellText, columnsOf, withCell } from "@/core/drawer/columns";
import { spoolLabel } from "@/core/drawer/spoolLabel";
import { ITEM_NAMES, type ItemKind } from "@/core/drawer/things";
import { drawingToSvg } from "@/core/kernel/drawing";
import { CoreError } from "@/core/kernel/errors";
import { choiceWords } from "../../cutter/words";
import type { DrawerRow } from "../../kit/api";
import { downloadText } from "../../kit/download";
import { slugOf } from "../../kit/slug";
import { For } from "../../kit/useMember";
import { useUnits } from "../../kit/useUnits";

/** A row as the table holds it: what each column shows, under the column's key. */
type TextRow = { id: string } & Record<string, string>;

/** A cell being typed in; what is wrong with it is right under it. */
function EditCell(params: GridRenderEditCellParams & { error?: unknown }) {
  const { id, field, value, hasFocus } = params;
  const grid = useGridApiContext();
  const anchor = useRef<HTMLDivElement>(null);
  const error = typeof params.error === "string" ? params.error : null;
  return (
    <div ref={anchor} style={{ width: "100%" }}>
      <InputBase
        value={value ?? ""}
        autoFocus={hasFocus}
        fullWidth
        error={error !== null}
        inputProps={{ "aria-label": params.colDef.headerName, "aria-invalid": error !== null, className: "num" }}
        onChange={(event) => void grid.current.setEditCellValue({ id, field, value: event.target.value })}
        sx={{ px: 1, fontSize: 15 }}
      />
      <Popper open={error !== null} anchorEl={anchor.current} placement="bottom-start" style={{ zIndex: 1400 }}>
        <div role="alert" className="cell-fault">
          {error}
        </div>
      </Popper>
    </div>
  );
}

/** Widths in pixels; a column not named here takes what is left. */
const WIDTHS: Readonly<Record<string, number>> = {
  name: 162,
  alloy: 150,
  size: 92,
  strands: 86,
  temper: 82,
  length_m: 78,
  measured_ohm_per_m: 104,
  price_per_m: 88,
  plate: 230,
  control: 150,
  device: 140,
  family: 90,
  owned: 74,
  price: 76,
};

/** One kind of thing as a table that is edited in place. */
export function DrawerTable({
  kind,
  rows,
  search,
  onSave,
  onFault,
  onRemove,
}: {
  kind: ItemKind;
  rows: readonly DrawerRow[];
  search: string;
  onSave: (row: DrawerRow, item: DrawerRow["item"]) => Promise<DrawerRow>;
  onFault: (message: string) => void;
  onRemove: (row: DrawerRow) => void;
}) {
  const { system } = useUnits();
  // A supply in full is for files only; on screen its label says it.
  const shown = useMemo(() => columnsOf(kind).filter((column) => column.key !== "supply"), [kind]);
  const byId = useMemo(() => new Map(rows.map((row) => [row.id, row])), [rows]);
  const texts = useMemo(
    () =>
      rows
        .map((row) => ({ id: row.id, ...Object.fromEntries(shown.map((column) => [column.key, cellText(row.item, column, system)])) }) as TextRow)
        .filter((row) => {
          const wanted = search.trim().toLowerCase();
          return shown.some((column) => `${row[column.key]} ${choiceWords(column.key, row[column.key] ?? "")}`.toLowerCase().includes(wanted));
        }),
    [rows, shown, system, search],
  );
  const columns = useMemo<GridColDef<TextRow>[]>(() => {
    const figureOf = (id: unknown, key: string) => (byId.get(String(id))?.item as Record<string, unknown> | undefined)?.[key];
    const make = (column: Column): GridColDef<TextRow> => ({
      field: column.key,
      headerName: column.label,
      ...(WIDTHS[column.key] ? { width: WIDTHS[column.key] } : { flex: 1, minWidth: 88 }),
      editable: true,
      cellClassName: ["text", "choice", "yes-no", "plate"].includes(column.reading.as) ? "" : "num",
      ...(column.reading.as === "choice" || column.reading.as === "yes-no"
        ? {
            type: "singleSelect" as const,
            valueOptions: column.reading.as === "choice" ? column.reading.of.map((value) => ({ value, label: choiceWords(column.key, value) })) : ["yes", "no"],
          }
        : {
            renderEditCell: (params: GridRenderEditCellParams) => <EditCell {...params} />,
            preProcessEditCellProps: ({ id, props }: { id: unknown; props: { value?: unknown } }) => {
              const row = byId.get(String(id));
              if (!row) return { ...props, error: "this row is gone" };
              try {
                withCell(row.item, column, String(props.value ?? ""), system);
                return { ...props, error: undefined };
              } catch (error) {
                if (!(error instanceof CoreError)) throw error;
                return { ...props, error: error.message };
              }
            },
            // Figures sort as figures, in any unit.
            sortComparator: (a: string, b: string, left: { id: unknown }, right: { id: unknown }) => {
              const [x, y] = [figureOf(left.id, column.key), figureOf(right.id, column.key)];
              return typeof x === "number" && typeof y === "number" ? x - y : a.localeCompare(b);
            },
          }),
    });
    return [
      ...shown.map(make),
      {
        field: "actions",
        headerName: "Out",
        width: kind === "wire" ? 170 : 100,
        sortable: false,
        renderCell: ({ id }) => (
          <>
            {kind === "wire" && (
              <Button
                size="small"
                onClick={() => {
                  const item = byId.get(String(id))?.item;
                  if (item?.kind === "wire") downloadText(`${slugOf(item.name)}-label.svg`, "image/svg+xml", drawingToSvg(spoolLabel(item, system)));
                }}
              >
                Label
              </Button>
            )}
            <For who="keep">
              {" "}
              <Button
                size="small"
                onClick={() => {
                  const row = byId.get(String(id));
                  if (row) onRemove(row);
                }}
              >
                Take out
              </Button>
            </For>
          </>
        ),
      },
    ];
  }, [shown, byId, system, onRemove, kind]);

  return (
    <DataGrid<TextRow>
      rows={texts}
      columns={columns}
      hideFooter={texts.length <= 100}
      disableRowSelectionOnClick
      disableColumnMenu
      aria-label={ITEM_NAMES[kind].many}
      rowHeight={44}
      columnHeaderHeight={52}
      autoHeight
      processRowUpdate={async (next, before) => {
        const changed = shown.find((column) => next[column.key] !== before[column.key]);
        const row = byId.get(next.id);
        if (!changed || !row) return before;
        const saved = await onSave(row, withCell(row.item, changed, next[changed.key] ?? "", system));
        return { id: saved.id, ...Object.fromEntries(shown.map((column) => [column.key, cellText(saved.item, column, system)])) } as TextRow;
      }}
      onProcessRowUpdateError={(error: Error) => onFault(error.message)}
      slots={{ noRowsOverlay: () => <p style={{ textAlign: "center", padding: 20 }}>{search ? "Nothing here answers to that." : ITEM_NAMES[kind].empty}</p> }}
      sx={{
        border: "1px solid var(--line)",
        fontSize: 15,
        background: "var(--paper-bright)",
        "& .MuiDataGrid-columnHeaderTitle": { whiteSpace: "normal", lineHeight: 1.15 },
        "& .MuiDataGrid-cell.num": { fontFamily: "var(--num)", fontSize: 14 },
      }}
    />
  );
}
