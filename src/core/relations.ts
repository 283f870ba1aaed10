import { AIR_PROPERTIES, CHURCHILL_BERNSTEIN, MORGAN } from "./correlations/air";
import { MOVING_LINE_SOURCE } from "./correlations/movingLineSource";
import { AXIAL } from "./models/axial";
import { BARE_WIRE_BALANCE } from "./models/bareWire";
import { LEAD_RESISTANCE, OHMS_LAW, PHASE_LAW, PWM_LAW } from "./models/circuit";
import { DRAG, KERF_GAP, TOP_FEED } from "./models/cut";
import { DWELL, LAG } from "./models/lag";
import { BATTERY_RUN, FUSE_RULE } from "./models/powerAdvice";
import { HOT_TENSION, PITCH } from "./models/tension";
import { WARM_UP } from "./models/warmup";
import { WIRE_RESISTANCE } from "./models/wire";
import type { Relation } from "./provenance";

/** Every relation the core computes with, in the order of the work; docs and the "why?" panel read this list. */
export const RELATIONS: readonly Relation[] = [
  WIRE_RESISTANCE,
  AIR_PROPERTIES,
  MORGAN,
  CHURCHILL_BERNSTEIN,
  BARE_WIRE_BALANCE,
  OHMS_LAW,
  PWM_LAW,
  PHASE_LAW,
  LEAD_RESISTANCE,
  FUSE_RULE,
  BATTERY_RUN,
  MOVING_LINE_SOURCE,
  TOP_FEED,
  KERF_GAP,
  DRAG,
  LAG,
  DWELL,
  AXIAL,
  WARM_UP,
  HOT_TENSION,
  PITCH,
];
