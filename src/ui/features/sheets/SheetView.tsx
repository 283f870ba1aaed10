"use client";
import type { StoredDocument } from "@/core/kernel/document";
import "../../kit/theme/sheet.css";
import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useCallback, useMemo, useState } from "react";
import type { Design } from "@/core/cutters/design/schema";
import { foamOf } from "@/core/drawer/things";
import type { FoamSpec } from "@/core/materials/foams";
import { buildSheet } from "@/core/sheets/buildSheet";
import { api, type DrawerRow } from "../../kit/api";
import { DrawingView } from "../../kit/DrawingView";
import { InstrumentBoundary } from "../../kit/InstrumentBoundary";
import { useOnArrival } from "../../kit/useOnArrival";
import { useUnits } from "../../kit/useUnits";

/** One page to pin above the bench: on screen, on paper, as PDF. */
export function SheetView({ design, id, onBeforePdf }: { design: Design; id: string | null; onBeforePdf: () => Promise<void> }) {
  const { system } = useUnits();
  const [around, setAround] = useState<{ drawer: DrawerRow[]; cutters: StoredDocument<Design>[] } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const say = useCallback((error: Error) => setFault(error.message), []);
  const look = useCallback(async (signal: AbortSignal) => {
    const [drawer, cutters] = await Promise.all([api.drawer.list(signal), api.cutters.list(undefined, signal)]);
    setAround({ drawer, cutters });
  }, []);
  useOnArrival(look, say);
  const sheet = useMemo(() => {
    const items = around?.drawer.map((row) => row.item) ?? [];
    const foams: FoamSpec[] = [
      ...items.flatMap((item) => (item.kind === "foam" ? [{ family: item.family, density_kg_m3: Math.round(foamOf(item).densityKgM3) }] : [])),
      ...(around?.cutters.map((row) => row.document.job.foam as FoamSpec) ?? []),
    ];
    return buildSheet(design, items, foams, system);
  }, [design, around, system]);
  return (
    <main className="sheet-frame">
      <div className="sheet-actions">
        <Button
          variant="contained"
          disabled={id === null}
          onClick={() => void onBeforePdf().then(() => window.location.assign(`/api/cutters/${id}/sheet?units=${system}`))}
        >
          Save PDF
        </Button>
        <Button variant="outlined" onClick={() => window.print()}>
          Print
        </Button>
        {id === null && <span>Keep a copy first: the PDF is made from what is kept.</span>}
        {fault && <Alert severity="warning">The drawer could not be read, so the sheet does not know what is in it: {fault}</Alert>}
      </div>
      <article className="sheet" aria-label={`Build sheet of ${sheet.name}`}>
        <header>
          <h1>{sheet.name}</h1>
          <p>
            {sheet.kind}
            <br />
            <strong>{sheet.ready ? "marked ready" : sheet.blocks.length > 0 ? "not ready: see cautions" : "not marked ready"}</strong>
          </p>
        </header>
        <p style={{ margin: "0 0 8px" }}>
          {sheet.verdict} {sheet.detail}
        </p>
        <InstrumentBoundary name="the rod">
          <DrawingView drawing={sheet.rod} />
        </InstrumentBoundary>
        <dl className="sheet-figures">
          {sheet.figures.map((figure) => (
            <div key={figure.label}>
              <dd className="num">{figure.value}</dd>
              <dt>{figure.label}</dt>
            </div>
          ))}
        </dl>
        <div className="sheet-columns">
          <section>
            <h2>Parts</h2>
            <dl className="sheet-parts">
              {sheet.parts.map((part) => (
                <div key={part.part}>
                  <dt>{part.part}</dt>
                  <dd>
                    {part.words}
                    {part.drawer && (
                      <div className="sheet-soft">
                        {part.inDrawer ? "in the drawer: " : ""}
                        {part.drawer}
                        {part.inDrawer ? "" : part.price === null ? ", price not known" : `, ${Number(part.price.toFixed(2))}`}
                      </div>
                    )}
                  </dd>
                </div>
              ))}
            </dl>
            <p>
              <strong>{sheet.toBuy.words}</strong>
            </p>
          </section>
          <section>
            <h2>Settings card</h2>
            <table className="sheet-card">
              <tbody>
                {sheet.settings.map((setting) => (
                  <tr key={setting.foam}>
                    <th scope="row">{setting.foam}</th>
                    {setting.setting === null ? (
                      <td colSpan={2} className="sheet-soft">
                        not cleanly with this set-up
                      </td>
                    ) : (
                      <>
                        <td className="num">
                          {setting.setting} at {setting.feed}
                        </td>
                        <td className="num" style={{ textAlign: "right" }}>
                          {setting.kerf}
                        </td>
                      </>
                    )}
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="sheet-soft">foam, knob and feed, kerf; the cool side of clean</p>
            <h2>Cautions</h2>
            {sheet.cautions.length === 0 && <p>None beyond the usual: hot wire, fumes, whip.</p>}
            {sheet.cautions.map((caution) => (
              <p key={caution.words} style={{ margin: "0 0 4px" }}>
                {caution.severity === "danger" && <strong>Danger. </strong>}
                {caution.words}
              </p>
            ))}
          </section>
        </div>
        {/* A heading at the foot of a page, its drawing on the next, is no use on paper. */}
        <div style={{ breakInside: "avoid" }}>
          <h2>Wiring</h2>
          <InstrumentBoundary name="the wiring">
            <DrawingView drawing={sheet.wiring} />
          </InstrumentBoundary>
        </div>
        <ul className="sheet-soft" style={{ margin: "0 0 8px", paddingLeft: 18 }}>
          {sheet.wiringNotes
            .filter((note) => note.never)
            .map((note) => (
              <li key={note.words}>{note.words}</li>
            ))}
        </ul>
        <h2>Before switching on</h2>
        <ul className="sheet-checks">
          {sheet.checklist.map((item) => (
            <li key={item}>{item}</li>
          ))}
        </ul>
        <p className="sheet-soft">Extra-low voltage only at the wire. Local electrical codes rule; anything on the mains side by a licensed electrician.</p>
      </article>
    </main>
  );
}
