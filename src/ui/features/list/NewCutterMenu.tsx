"use client";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Link from "next/link";
import { CUTTER_KINDS, type CutterKind } from "@/core/cutters/design/vocabulary";
import { KINDS } from "@/core/cutters/solve/defaults";
import { CutterDrawing } from "../../cutter/CutterDrawing";

export interface MenuProps {
  anchor: HTMLElement | null;
  onMake: (kind: CutterKind) => void;
  onClose: () => void;
}

/** From the job, or empty of a kind. */
export function NewCutterMenu({ anchor, onMake, onClose }: MenuProps) {
  return (
    <Menu open anchorEl={anchor} onClose={onClose}>
      <MenuItem component={Link} href="/start" sx={{ gap: 2, whiteSpace: "normal", maxWidth: 420, borderBottom: "1px solid var(--line)" }}>
        <span style={{ flex: "0 0 84px", fontSize: 26, textAlign: "center" }} aria-hidden="true">
          ?
        </span>
        <span>
          <strong>Start from the job</strong>
          <br />
          <span style={{ fontSize: 14 }}>four questions, three set-ups that would do it</span>
        </span>
      </MenuItem>
      {CUTTER_KINDS.map((kind) => (
        <MenuItem key={kind} onClick={() => onMake(kind)} sx={{ gap: 2, whiteSpace: "normal", maxWidth: 420 }}>
          <span style={{ flex: "0 0 84px" }}>
            <CutterDrawing kind={kind} />
          </span>
          <span>
            <strong>{KINDS[kind].name}</strong>
            <br />
            <span style={{ fontSize: 14 }}>{KINDS[kind].words}</span>
          </span>
        </MenuItem>
      ))}
    </Menu>
  );
}
