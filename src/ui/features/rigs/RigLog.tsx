"use client";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Link from "next/link";
import { useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { rigRecord } from "@/core/rigs/kinds";
import { rigEntry, stackCut } from "@/core/rigs/logged";
import type { RigDocument } from "@/core/rigs/rig";
import { logQueue } from "../../kit/logQueue";
import { OptionalCount } from "../../kit/OptionalCount";
import { OptionalQuantity } from "../../kit/OptionalQuantity";

/** A cut on the rig as it was really made, kept in its cutter's log; a stack of sheets teaches the cutter's kerf too. */
export function RigLog({ document, design }: { document: RigDocument; design: Design | null }) {
  const record = rigRecord(document.rig.kind);
  const [given, setGiven] = useState<Record<string, number | undefined>>({});
  const [note, setNote] = useState("");
  const [state, setState] = useState<"open" | "kept" | "taught" | { fault: string }>("open");
  const { cutter } = document;
  if (!cutter || !design) return <p>A cut is kept in its cutter's log: name the cutter that hangs in this rig, and it is kept here.</p>;
  const filled = record.logged.some(({ key }) => given[key] !== undefined);
  const at = () => new Date().toISOString();
  const keep = async () => {
    try {
      await logQueue.keep(cutter.id, rigEntry(document.rig, document.name, given, note, at()));
      const { stack, stack_mm: mm, spacer_mm: spacerMm } = given;
      const cut = stack !== undefined && mm !== undefined ? stackCut(document.rig, design, { sheets: stack, mm, spacerMm }, at()) : null;
      if (cut) await logQueue.keep(cutter.id, cut);
      setState(cut ? "taught" : "kept");
    } catch (error) {
      setState({ fault: (error as Error).message });
    }
  };
  const set = (key: string) => (value: number | undefined) => {
    setState("open");
    setGiven({ ...given, [key]: value });
  };
  return (
    <section aria-label="A cut on this rig" className="plan-fields" data-testid="rig-log" style={{ maxWidth: 620 }}>
      <p style={{ margin: 0 }}>A cut on this rig, for {cutter.name}'s log.</p>
      <div className="plan-pair">
        {record.logged.map(({ key, label, quantity, min, max }) =>
          quantity ? (
            <OptionalQuantity key={key} quantity={quantity} label={label} value={given[key]} range={{ min, max }} hint=" " onChange={set(key)} />
          ) : (
            <OptionalCount key={key} label={label} value={given[key]} min={min} max={max} onChange={set(key)} />
          ),
        )}
      </div>
      <TextField
        label="Note"
        size="small"
        fullWidth
        value={note}
        onChange={(event) => {
          setState("open");
          setNote(event.target.value.slice(0, 500));
        }}
      />
      <p>
        <Button variant="contained" disabled={!filled || state === "kept" || state === "taught"} onClick={() => void keep()}>
          {state === "kept" || state === "taught" ? "Logged" : "Log this cut"}
        </Button>{" "}
        {(state === "kept" || state === "taught") && (
          <Link href={`/cutters/${cutter.id}/log/${state === "taught" ? "calibration" : "logbook"}`}>
            {state === "taught" ? "See what its kerf teaches" : "See the log"}
          </Link>
        )}
      </p>
      {typeof state === "object" && (
        <Alert severity="error" role="alert">
          It could not be kept: {state.fault}
        </Alert>
      )}
    </section>
  );
}
