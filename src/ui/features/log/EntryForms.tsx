"use client";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import type { LogEntry, WireChange } from "@/core/log/entries";
import { foamNamed } from "@/core/materials/foams";
import { resolveWire } from "@/core/physics/heat/wire";
import { wireEnds } from "@/core/physics/mechanics/wireEnds";
import { LIMITS } from "@/core/units/limits";
import { parseQuantity } from "@/core/units/parseQuantity";
import { controlSentence, supplySentence } from "../../cutter/words";
import type { DrawerRow } from "../../kit/api";
import { QuantityField } from "../../kit/QuantityField";
import { tidy } from "../../kit/tidy";
import { useUnits } from "../../kit/useUnits";
import { MeasuredField } from "./MeasuredField";

const WHYS: readonly { why: WireChange["why"]; words: string }[] = [
  { why: "first", words: "first wire" },
  { why: "broke", words: "the old one broke" },
  { why: "worn", words: "the old one was worn" },
  { why: "other wire", words: "another wire was wanted" },
];

/** A wire change: why, from which spool, how much. The spool in the drawer grows shorter by it. */
export function WireChangeForm({ design, drawer, onSave }: { design: Design; drawer: readonly DrawerRow[]; onSave: (entry: LogEntry) => void }) {
  const { show } = useUnits();
  const { length_mm, ...wire } = design.wire;
  const [why, setWhy] = useState<WireChange["why"]>("first");
  const [spool, setSpool] = useState("");
  const [cutMm, setCutMm] = useState(Math.round(wireEnds(resolveWire(wire), length_mm / 1000).cutM * 1000));
  const spools = drawer.flatMap(({ item }) => (item.kind === "wire" && item.owned ? [item] : []));
  const held = spools.find((item) => item.name === spool);
  return (
    <fieldset className="entry-form">
      <legend>New wire on</legend>
      <TextField select size="small" label="Why" value={why} onChange={(event) => setWhy(event.target.value as WireChange["why"])}>
        {WHYS.map((each) => (
          <MenuItem key={each.why} value={each.why}>
            {each.words}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Spool"
        value={spool}
        onChange={(event) => setSpool(event.target.value)}
        helperText={held ? `${show("leadLength", held.length_m, 2)} left on it` : "none named"}
      >
        <MenuItem value="">none named</MenuItem>
        {spools.map((item) => (
          <MenuItem key={item.name} value={item.name}>
            {item.name}
          </MenuItem>
        ))}
      </TextField>
      <QuantityField quantity="length" label="Cut, with both ends" value={cutMm} range={LIMITS.length_mm} onChange={(next) => setCutMm(tidy(next))} />
      <Button
        variant="outlined"
        onClick={() => onSave({ kind: "wire-change", at: new Date().toISOString(), why, wire, ...(held ? { spool: held.name } : {}), cut_mm: cutMm, note: "" })}
      >
        Keep the change
      </Button>
    </fieldset>
  );
}

/** A run of work: how many pieces, how long. */
export function RunForm({ design, onSave }: { design: Design; onSave: (entry: LogEntry) => void }) {
  const { show, system } = useUnits();
  const [pieces, setPieces] = useState("1");
  const [cut, setCut] = useState("");
  const [minutes, setMinutes] = useState("");
  const [faults, setFaults] = useState<{ pieces?: string; cut?: string; minutes?: string }>({});
  const keep = () => {
    const wrong: typeof faults = {};
    const whole = Number(pieces);
    const { min, max } = LIMITS.pieces;
    if (!Number.isInteger(whole) || whole < min || whole > max) wrong.pieces = `a whole number from ${min} to ${max}`;
    const way = cut.trim() === "" ? null : parseQuantity("leadLength", cut, system, LIMITS.cutLength_m);
    if (way && !way.ok) wrong.cut = way.message;
    const hot = minutes.trim() === "" ? null : Number(minutes.replace(",", "."));
    if (hot !== null && !(hot >= LIMITS.minutes.min && hot <= LIMITS.minutes.max))
      wrong.minutes = `minutes from ${LIMITS.minutes.min} to ${LIMITS.minutes.max}`;
    setFaults(wrong);
    if (Object.keys(wrong).length > 0) return;
    onSave({
      kind: "run",
      at: new Date().toISOString(),
      foam: foamNamed(design.job.foam),
      width_mm: design.job.width_mm,
      setting: `${supplySentence(design, show)}, ${controlSentence(design, show)}`.slice(0, 60),
      feed_mm_s: design.job.feed_mm_s,
      pieces: whole,
      ...(way?.ok ? { cut_m: tidy(way.value) } : {}),
      ...(hot === null ? {} : { hot_min: hot }),
      note: "",
    });
    setCut("");
    setMinutes("");
  };
  return (
    <fieldset className="entry-form">
      <legend>A run of work</legend>
      <MeasuredField label="Pieces" value={pieces} fault={faults.pieces} onChange={setPieces} />
      <MeasuredField label="Way cut" value={cut} fault={faults.cut} hint="such as 12 m" onChange={setCut} />
      <MeasuredField label="Minutes hot" value={minutes} fault={faults.minutes} hint="if counted" onChange={setMinutes} />
      <Button variant="outlined" onClick={keep}>
        Keep the run
      </Button>
    </fieldset>
  );
}
