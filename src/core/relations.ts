import { MELT_WIDTH } from "./bench/meltWidth";
import { BENCH } from "./bench/simulator";
import { CALIBRATION } from "./calibration/fit";
import { AIR_PROPERTIES, CHURCHILL_BERNSTEIN, MORGAN } from "./correlations/air";
import { MOVING_LINE_SOURCE } from "./correlations/movingLineSource";
import { KNOB_CURVE } from "./design/knobCurve";
import { OFFCUT } from "./design/offcut";
import { SETTING_CARD } from "./design/settingCard";
import { BLOCK_DENSITY } from "./drawer/block";
import { MEASURED_SUPPLY } from "./drawer/measuredSupply";
import { SPOOL_READING } from "./drawer/spool";
import { DIAGNOSIS } from "./log/diagnosis";
import { AXIAL } from "./models/axial";
import { AXIAL_IN_TIME } from "./models/axialInTime";
import { BARE_WIRE_BALANCE } from "./models/bareWire";
import { OHMS_LAW, PHASE_LAW, PWM_LAW } from "./models/circuit";
import { CUT_TIME, DRAG, KERF_GAP, TOP_FEED } from "./models/cut";
import { ENTRY } from "./models/entry";
import { BENDING, BOW_SAW, EULER } from "./models/frame";
import { DWELL, LAG, PULLED } from "./models/lag";
import { LEAD_HEAT, LEAD_RESISTANCE } from "./models/leads";
import { BATTERY_RUN, FUSE_RULE } from "./models/powerAdvice";
import { SPRING_TEST, WHIP } from "./models/springs";
import { SOLDERING_TIP, STIFF_TOOL, WAND } from "./models/stiffTools";
import { ARM_RATE, HOT_TENSION, PITCH, STRENGTH_LIMITS, STRUNG } from "./models/tension";
import { BAND } from "./models/uncertainty";
import { WARM_UP } from "./models/warmup";
import { WIRE_RESISTANCE } from "./models/wire";
import { TEMPLATE_EDGE } from "./models/wireBar";
import { WIRE_ENDS } from "./models/wireEnds";
import type { Relation } from "./provenance";
import { PITCH_HEARD } from "./tuner/pitch";

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
  LEAD_HEAT,
  FUSE_RULE,
  BATTERY_RUN,
  MOVING_LINE_SOURCE,
  TOP_FEED,
  CUT_TIME,
  KERF_GAP,
  DRAG,
  LAG,
  DWELL,
  PULLED,
  AXIAL,
  AXIAL_IN_TIME,
  TEMPLATE_EDGE,
  WARM_UP,
  ENTRY,
  HOT_TENSION,
  PITCH,
  STRENGTH_LIMITS,
  STRUNG,
  ARM_RATE,
  STIFF_TOOL,
  WAND,
  SOLDERING_TIP,
  OFFCUT,
  MEASURED_SUPPLY,
  KNOB_CURVE,
  BAND,
  CALIBRATION,
  SETTING_CARD,
  DIAGNOSIS,
  BENCH,
  MELT_WIDTH,
  SPRING_TEST,
  WHIP,
  BOW_SAW,
  EULER,
  BENDING,
  WIRE_ENDS,
  PITCH_HEARD,
  SPOOL_READING,
  BLOCK_DENSITY,
];
