import { MELT_WIDTH } from "./bench/meltWidth";
import { BENCH } from "./bench/simulator";
import { CALIBRATION } from "./calibration/fit";
import { KNOB_CURVE } from "./cutters/solve/knobCurve";
import { OFFCUT } from "./cutters/solve/offcut";
import { DIAGNOSIS } from "./diagnosis/diagnosis";
import { BLOCK_DENSITY } from "./drawer/block";
import { MEASURED_SUPPLY } from "./drawer/measuredSupply";
import { SPOOL_READING } from "./drawer/spool";
import type { Relation } from "./kernel/provenance";
import { ONE_PATH } from "./motion/path/onePath";
import { CARRIAGES } from "./motion/program/carriages";
import { PROGRAM } from "./motion/program/program";
import { MOVE_TIME, STEP_RELATION } from "./motion/program/steps";
import { PACE } from "./pace/pace";
import { PRACTICE } from "./pace/practice";
import { AXIAL_IN_TIME } from "./physics/cut/axialInTime";
import { AXIAL } from "./physics/cut/axialLaw";
import { CUT_TIME, DRAG, KERF_GAP, TOP_FEED } from "./physics/cut/cut";
import { ENTRY } from "./physics/cut/entry";
import { DWELL, LAG, PULLED } from "./physics/cut/lag";
import { BAND } from "./physics/cut/uncertainty";
import { TEMPLATE_EDGE } from "./physics/cut/wireBar";
import { AIR_PROPERTIES, CHURCHILL_BERNSTEIN, MORGAN } from "./physics/heat/air";
import { BARE_WIRE_BALANCE } from "./physics/heat/bareWire";
import { MOVING_LINE_SOURCE } from "./physics/heat/movingLineSource";
import { WIRE_RESISTANCE } from "./physics/heat/wire";
import { BENDING, BOW_SAW, EULER } from "./physics/mechanics/frame";
import { SPRING_TEST, WHIP } from "./physics/mechanics/springs";
import { STIFF_TOOL } from "./physics/mechanics/stiffBow";
import { SOLDERING_TIP, WAND } from "./physics/mechanics/stiffTools";
import { ARM_RATE, HOT_TENSION, PITCH, STRENGTH_LIMITS, STRUNG } from "./physics/mechanics/tension";
import { WIRE_ENDS } from "./physics/mechanics/wireEnds";
import { OHMS_LAW } from "./physics/power/circuit";
import { CONTROLS } from "./physics/power/controls";
import { LEAD_HEAT, LEAD_RESISTANCE } from "./physics/power/leads";
import { BATTERY_RUN, FUSE_RULE } from "./physics/power/powerAdvice";
import { WARM_UP } from "./physics/power/warmup";
import { REACH } from "./physics/string/reach";
import { WIRE_SURFACE } from "./physics/string/tautWire";
import { ALLOWANCE } from "./plans/guide";
import { STATIONS } from "./plans/stations";
import { RIG_KINDS, rigRecord } from "./rigs/kinds";
import { SETTING_CARD } from "./sheets/settingCard";
import { PITCH_DETECTION } from "./tuner/pitch";

const IN_ORDER: readonly Relation[] = [
  WIRE_RESISTANCE,
  AIR_PROPERTIES,
  MORGAN,
  CHURCHILL_BERNSTEIN,
  BARE_WIRE_BALANCE,
  OHMS_LAW,
  ...CONTROLS.flatMap(({ law }) => law ?? []),
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
  PITCH_DETECTION,
  SPOOL_READING,
  BLOCK_DENSITY,
  ALLOWANCE,
  STATIONS,
  WIRE_SURFACE,
  REACH,
  PACE,
  PRACTICE,
  STEP_RELATION,
  MOVE_TIME,
  CARRIAGES,
  ONE_PATH,
  PROGRAM,
  ...RIG_KINDS.flatMap((kind) => rigRecord(kind).laws),
];
/** Every relation the core computes with, each once, in the order of the work; docs and the "why?" panel read this list. */
export const RELATIONS: readonly Relation[] = [...new Set(IN_ORDER)];
