import { useState } from "react";
import { CONTROLLER_FAULTS, type ControllerFault } from "@/core/motion/controller/simulatedController";
import { Tile, TileRow } from "../../../kit/Tile";
import { FAULT_WORDS } from "./runScreen";
import type { RunPort } from "./useServerRun";

const SPEEDS = [1, 10, 50] as const;

/** A simulated controller can be made to misbehave, and to hurry. */
export function RunPractice({ port }: { port: RunPort }) {
  const [speed, setSpeed] = useState<number>(1);
  return (
    <details className="run-practice">
      <summary>A simulated controller, for practice: inject a fault</summary>
      <TileRow>
        {CONTROLLER_FAULTS.map((fault) => (
          <FaultTile key={fault} fault={fault} port={port} />
        ))}
      </TileRow>
      <TileRow>
        {SPEEDS.map((times) => (
          <Tile
            key={times}
            chosen={speed === times}
            onClick={() => {
              setSpeed(times);
              void port.act({ act: "speed", times });
            }}
          >
            {times === 1 ? "real time" : `${times} times as fast`}
          </Tile>
        ))}
      </TileRow>
    </details>
  );
}

function FaultTile({ fault, port }: { fault: ControllerFault; port: RunPort }) {
  const [on, setOn] = useState(false);
  const once = fault === "steps" || fault === "disconnect";
  return (
    <Tile
      chosen={on}
      onClick={() => {
        setOn(!on && !once);
        void port.act({ act: "misbehave", fault, on: once || !on });
      }}
    >
      {FAULT_WORDS[fault]}
    </Tile>
  );
}
