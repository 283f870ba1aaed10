"use client";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useMemo, useState } from "react";
import { Controller, useForm, useWatch } from "react-hook-form";
import { blockDensity } from "@/core/drawer/block";
import { columnsOf, itemFromCells } from "@/core/drawer/columns";
import type { Item } from "@/core/drawer/items";
import { readPlate } from "@/core/drawer/plate";
import { identifySpool, type SpoolReading } from "@/core/drawer/spool";
import { ITEM_NAMES, type ItemKind } from "@/core/drawer/things";
import { CoreError } from "@/core/kernel/errors";
import { parseQuantity } from "@/core/units/parseQuantity";
import type { Quantity } from "@/core/units/units";
import { choiceWords, supplySentence, wireWords } from "../../cutter/words";
import { ApiError } from "../../kit/api";
import { Tile } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";

type Cells = Record<string, string>;

const STARTS: Readonly<Record<ItemKind, Cells>> = {
  wire: { alloy: "nicr-80-20", temper: "annealed", owned: "yes" },
  supply: { owned: "yes" },
  control: { control: "pwm", owned: "yes" },
  lead: { owned: "yes" },
  tensioner: { device: "spring", owned: "yes" },
  fuse: { count: "1", owned: "yes" },
  foam: { family: "eps", owned: "yes" },
};

/** What a label is read as, while it is being typed. */
function PlateReading({ text }: { text: string }) {
  const { show } = useUnits();
  if (text.trim() === "") return <p className="reading">Type what the label says: volts and amperes, or VA, or ampere-hours.</p>;
  try {
    const { supply, notes } = readPlate(text);
    return (
      <p className="reading" role="status">
        Read as <strong>{supplySentence({ supply } as never, show)}</strong>: {notes.join("; ")}.
      </p>
    );
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return (
      <p className="reading" role="status">
        {error.code === "lethal" && <strong>Refused. </strong>}
        {error.message}
      </p>
    );
  }
}

/** Meter and rule to wire: what a measured piece may be. */
function SpoolMeter({ onPick }: { onPick: (cells: Cells) => void }) {
  const { system, show } = useUnits();
  const [texts, setTexts] = useState({ length: "", reading: "", leads: "", calliper: "" });
  const evaluation = useMemo(() => {
    const read = (quantity: Quantity, text: string, range: { min: number; max: number }) => {
      const parsed = parseQuantity(quantity, text, system, range);
      return parsed.ok ? parsed.value : null;
    };
    const lengthM = read("leadLength", texts.length, { min: 0.01, max: 1000 });
    const readingOhm = read("resistance", texts.reading, { min: 0.001, max: 100000 });
    if (lengthM === null || readingOhm === null) return null;
    const reading: SpoolReading = { lengthM, readingOhm };
    const leads = texts.leads === "" ? null : read("resistance", texts.leads, { min: 0, max: 10 });
    const calliper = texts.calliper === "" ? null : read("diameter", texts.calliper, { min: 0.01, max: 12 });
    return identifySpool({ ...reading, ...(leads === null ? {} : { leadsOhm: leads }), ...(calliper === null ? {} : { diameterMm: calliper }) });
  }, [texts, system]);
  const field = (key: keyof typeof texts, label: string, helper: string) => (
    <TextField size="small" label={label} helperText={helper} value={texts[key]} onChange={(event) => setTexts({ ...texts, [key]: event.target.value })} />
  );
  return (
    <fieldset style={{ border: "1px solid var(--line)", margin: "0 0 14px" }}>
      <legend>Do not know what it is? Measure it</legend>
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 10 }}>
        {field("length", "Length measured", 'such as "10 m": longer is better')}
        {field("reading", "Meter reads", 'such as "83.9 ohm"')}
        {field("leads", "Meter leads alone", "hold their tips together; empty if unknown")}
        {field("calliper", "Calliper over the wire", "if you have one")}
      </div>
      {evaluation && (
        <div role="status">
          <p className="reading">
            <span className="num">{show("resistancePerLength", evaluation.ohmPerM, 3)}</span> ±{" "}
            <span className="num">{show("resistancePerLength", evaluation.spreadOhmPerM, 3)}</span>: {evaluation.advice}.
          </p>
          <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 6 }}>
            {evaluation.candidates.map((candidate) => (
              <Tile
                key={JSON.stringify(candidate.wire)}
                chosen={false}
                onClick={() =>
                  onPick({
                    alloy: String(candidate.wire.alloy),
                    size: candidate.wire.gauge_awg !== undefined ? `${candidate.wire.gauge_awg} awg` : `${candidate.wire.diameter_mm} mm`,
                    measured_ohm_per_m: `${Number(evaluation.ohmPerM.toPrecision(5))} ohm/m`,
                  })
                }
              >
                <strong>{wireWords({ wire: candidate.wire }, show)}</strong>
                {candidate.wire.gauge_awg !== undefined ? ` (${candidate.wire.gauge_awg} AWG)` : ""}
                <div style={{ fontSize: 14 }}>
                  <span className="num">{show("resistancePerLength", candidate.ohmPerM, 3)}</span>,{" "}
                  {candidate.apart < 1 ? "fits" : candidate.apart < 2 ? "may be" : "a stretch"}
                </div>
              </Tile>
            ))}
          </div>
          {evaluation.candidates.length === 0 && <p className="reading">No wire on the list comes near: check the length and the reading.</p>}
        </div>
      )}
    </fieldset>
  );
}

/** Density out of what is in the form's fields, as they are typed. */
function BlockWeight({ cells }: { cells: Cells }) {
  const { system, show } = useUnits();
  const read = (quantity: Quantity, text: string | undefined) => {
    const parsed = parseQuantity(quantity, text ?? "", system, { min: 0.1, max: 1e6 });
    return parsed.ok ? parsed.value : undefined;
  };
  const density = blockDensity({
    block_length_mm: read("length", cells.block_length_mm),
    block_width_mm: read("length", cells.block_width_mm),
    block_thickness_mm: read("length", cells.block_thickness_mm),
    mass_g: read("mass", cells.mass_g),
  });
  return (
    <p className="reading" role="status">
      {density ? (
        <>
          Weighs <strong className="num">{show("density", density.densityKgM3, 1)}</strong> ±{" "}
          <span className="num">{show("density", density.spreadKgM3, 1)}</span>, the rule read to 1 mm and the scale to 1 g.
        </>
      ) : (
        "Measure length, width, thickness and weigh it: its density follows. Or type the density the shop says."
      )}
    </p>
  );
}

/** Adds one thing to the drawer. Everything typed stays until it is accepted. */
export function AddItem({ kind, open, onClose, onAdd }: { kind: ItemKind; open: boolean; onClose: () => void; onAdd: (item: Item) => Promise<void> }) {
  const { system } = useUnits();
  const { control, handleSubmit, setError, setValue, reset, clearErrors } = useForm<Cells>({ defaultValues: STARTS[kind] });
  const cells = useWatch({ control });
  const columns = columnsOf(kind).filter((column) => column.key !== "supply");
  const submit = handleSubmit(async (typed) => {
    try {
      await onAdd(itemFromCells({ ...typed, kind } as Cells, undefined, system));
      reset(STARTS[kind]);
      onClose();
    } catch (error) {
      if (!(error instanceof CoreError) && !(error instanceof ApiError)) throw error;
      const key = (error.path ?? "").replace(/^item\./, "").split(".")[0];
      setError(columns.some((column) => column.key === key) ? (key as string) : "name", { message: error.message }, { shouldFocus: true });
    }
  });
  return (
    <Dialog open={open} onClose={onClose} maxWidth="sm" fullWidth aria-labelledby="add-title">
      <form onSubmit={submit} noValidate>
        <DialogTitle id="add-title">Add a {ITEM_NAMES[kind].one}</DialogTitle>
        <DialogContent>
          {kind === "wire" && (
            <SpoolMeter
              onPick={(picked) => {
                for (const [key, text] of Object.entries(picked)) setValue(key, text);
                clearErrors();
              }}
            />
          )}
          <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: "10px 12px", paddingTop: 6 }}>
            {columns.map((column) => {
              const choices = column.reading.as === "choice" ? column.reading.of : column.reading.as === "yes-no" ? ["yes", "no"] : null;
              const wide = column.reading.as === "plate" || column.key === "notes" || column.key === "name";
              return (
                <Controller
                  key={column.key}
                  name={column.key}
                  control={control}
                  defaultValue={STARTS[kind][column.key] ?? ""}
                  render={({ field: { ref, ...field }, fieldState }) => (
                    <TextField
                      {...field}
                      inputRef={ref}
                      value={field.value ?? ""}
                      size="small"
                      label={column.label}
                      select={choices !== null}
                      autoFocus={column.key === "name"}
                      error={fieldState.error !== undefined}
                      helperText={fieldState.error?.message ?? " "}
                      sx={wide ? { gridColumn: "1 / -1" } : undefined}
                    >
                      {choices?.map((choice) => (
                        <MenuItem key={choice} value={choice}>
                          {choiceWords(column.key, choice)}
                        </MenuItem>
                      ))}
                    </TextField>
                  )}
                />
              );
            })}
          </div>
          {kind === "supply" && <PlateReading text={cells.plate ?? ""} />}
          {kind === "foam" && <BlockWeight cells={cells as Cells} />}
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained">
            Put it in
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
