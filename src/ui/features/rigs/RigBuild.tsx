"use client";
import Button from "@mui/material/Button";
import type { BuildLine } from "@/core/rigs/record";
import { useUnits } from "../../kit/useUnits";

const OF = { wood: "Wood", hardware: "Hardware", wiring: "Wiring" } as const;

/** What to buy and make, and the drawing as files. */
export function RigBuild({
  id,
  lines,
  onBefore,
}: {
  id: string;
  lines: readonly BuildLine[] /** keeps what is open first; false where it could not be */;
  onBefore: () => Promise<boolean>;
}) {
  const { system } = useUnits();
  const get = (words: string, as: string, primary = false) => {
    const address = `/api/rigs/${id}/drawing?as=${as}&units=${system}`;
    return (
      <Button
        variant={primary ? "contained" : "outlined"}
        href={address}
        onClick={(event) => {
          // The server makes it of what is kept: that comes first.
          event.preventDefault();
          void onBefore().then((saved) => saved && window.location.assign(address));
        }}
      >
        {words}
      </Button>
    );
  };
  return (
    <div className="rig-build" data-testid="rig-build">
      <div className="plan-acts">
        {get("Build sheet as PDF", "pdf", true)}
        {get("Drawing, SVG", "svg")}
        {get("Drawing, DXF", "dxf")}
      </div>
      {(["wood", "hardware", "wiring"] as const).map((of) => {
        const own = lines.filter((line) => line.of === of);
        return own.length === 0 ? null : (
          <section key={of} aria-label={OF[of]}>
            <h2>{OF[of]}</h2>
            <ul>
              {own.map(({ words }) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          </section>
        );
      })}
      <p className="plan-basis">Files are at full size, in millimetres. Mains wiring follows the local electrical code and is a licensed electrician's work.</p>
    </div>
  );
}
