"use client";
import { useStore } from "zustand";
import { ConflictFrame, whose } from "../../kit/ConflictFrame";
import { useUnits } from "../../kit/useUnits";
import type { DeskStore } from "./deskStore";
import { partWords } from "./partWords";

/** A cutter changed in two tabs: the parts that clash, side by side. */
export function ConflictDialog({ store }: { store: DeskStore }) {
  const conflict = useStore(store, (state) => state.conflict);
  const { show } = useUnits();
  return (
    <ConflictFrame one="cutter" conflict={conflict} onResolve={store.resolve}>
      {({ clashes, withMine, merged, current }) => (
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
      )}
    </ConflictFrame>
  );
}
