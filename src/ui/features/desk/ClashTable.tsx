"use client";
import type { Design } from "@/core/cutters/design/schema";
import type { Conflict } from "../../kit/documentStore";
import { useUnits } from "../../kit/useUnits";
import { whose } from "../../kit/whose";
import { partWords } from "./partWords";

/** Parts of a cutter that two people changed, side by side. */
export function ClashTable({ clashes, withMine, merged, current }: Conflict<Design>) {
  const { show } = useUnits();
  return (
    <table className="plain-table" style={{ marginTop: 12 }}>
      <thead>
        <tr>
          <th scope="col" />
          <th scope="col">Here</th>
          <th scope="col">{whose({ current })}</th>
        </tr>
      </thead>
      <tbody>
        {clashes.map((label) => (
          <tr key={label} data-clash={label}>
            <th scope="row" style={{ fontWeight: 400 }}>
              {label}
            </th>
            <td>{partWords(withMine, label, show)}</td>
            <td>{partWords(merged, label, show)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
