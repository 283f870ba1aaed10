import { BenchWorld } from "@/core/bench/world";
import { supplyRecordOf } from "@/core/physics/power/supplies";
import { buffersOf } from "../kit/messages";
import { failure } from "../kit/serve";
import type { BenchFrame, FromBench, ToBench } from "./protocol";

const port = self as unknown as {
  onmessage: ((event: MessageEvent<ToBench>) => void) | null;
  onmessageerror: (() => void) | null;
  postMessage: (message: FromBench, transfer?: Transferable[]) => void;
};

/** A frame's arrays are made for it and handed over with it. */
function show(bench: BenchWorld): void {
  const frame = frameOf(bench);
  port.postMessage({ kind: "frame", run, frame }, buffersOf(frame, 1));
}

const FRAME_MS = 1000 / 60;
/** After a hold-up the bench goes on from where it was instead of leaping. */
const MOST_CATCH_UP_S = 0.1;

let world: BenchWorld | null = null;
let run = 0;
let times = 1;
let last = 0;
let trackSent = 0;
let tracesSent = 0;

function frameOf(bench: BenchWorld): BenchFrame {
  const { sim } = bench;
  const { middle } = sim;
  const { traces, tracks } = sim;
  const end = sim.endAt(sim.pathM);
  const from = Math.max(0, trackSent - 1);
  const rows = tracks.middle.slice(from);
  trackSent = tracks.middle.length;
  const tail = <T>(list: T[]) => list.slice(tracesSent);
  const sent = { timeS: tail(traces.timeS), forceN: tail(traces.forceN), airC: tail(traces.airC), foamC: tail(traces.foamC), feedMmS: tail(traces.feedMmS) };
  tracesSent = traces.timeS.length;
  const { record, own } = supplyRecordOf(sim.supplyNow);
  const shown = (device: "thermometer" | "scale") => {
    const line = bench.devices[device]?.handle(device === "scale" ? "READ?" : "MEAS:TEMP?");
    const value = Number(line);
    // SCPI's not-a-number and infinities represent a probe that has come off or is past its range.
    return line === undefined || line === null || Math.abs(value) > 9e37 ? null : value;
  };
  return {
    timeS: sim.timeS,
    pathM: sim.pathM,
    endP: end.p,
    endQ: end.q,
    endFeedMPerS: sim.endFeedMPerS,
    forceN: sim.forceN,
    lagM: sim.lagM,
    currentA: sim.currentA,
    volts: sim.currentA * sim.wireOhm,
    airC: sim.airC,
    supply: sim.supply,
    heatOn: sim.heatOn,
    broken: sim.broken,
    through: sim.through,
    charge: record.charge?.left(own) ?? null,
    shownC: shown("thermometer"),
    shownN: shown("scale"),
    middle,
    xM: Float32Array.from(sim.xM),
    p: Float32Array.from(sim.p),
    q: Float32Array.from(sim.q),
    wireC: Float32Array.from(sim.wireC),
    kerfM: Float32Array.from(sim.kerfM),
    heatWPerM: sim.heatWPerM[middle] as number,
    topFeedMPerS: sim.topFeedOf(middle),
    inFoam: sim.inFoam[middle] === 1,
    track: { from, rows: rows.map((row) => ({ ...row })) },
    traces: sent,
  };
}

function tick(): void {
  if (!world) return;
  const now = performance.now();
  const passed = Math.min(MOST_CATCH_UP_S, (now - last) / 1000) * times;
  last = now;
  if (passed <= 0) return;
  try {
    world.run(passed);
    show(world);
  } catch (error) {
    const failed = run;
    world = null;
    port.postMessage(failure(failed, error));
  }
}
setInterval(tick, FRAME_MS);

function open(message: Extract<ToBench, { kind: "open" }>): void {
  run = message.run;
  times = 1;
  trackSent = 0;
  tracesSent = 0;
  last = performance.now();
  // What cannot be set up leaves an empty bench, not the old one running on.
  world = null;
  world = new BenchWorld(message.design, message.options);
  show(world);
}

port.onmessage = ({ data }) => {
  try {
    if (data.kind === "open") {
      open(data);
      return;
    }
    if (!world || data.run !== run) return;
    switch (data.kind) {
      case "hand":
        world.hand(data.hand);
        break;
      case "knob":
        world.turn(data.setting);
        break;
      case "heat":
        world.heat(data.on);
        break;
      case "pace":
        times = data.times;
        last = performance.now();
        break;
      case "fault":
        world.devices[data.device]?.setFault(data.fault, data.on);
        break;
      case "say":
        port.postMessage({ kind: "said", run, id: data.id, evaluation: world.say(data.device, data.line) ?? null });
        break;
      case "report":
        port.postMessage({ kind: "report", run, id: data.id, report: world.report() });
        break;
    }
  } catch (error) {
    port.postMessage(failure(data.run, error));
  }
};
// Its run is not known: every caller gets the failure.
port.onmessageerror = () => port.postMessage({ kind: "failed", run, code: "unreadable", message: "what was said did not reach the bench whole" });
