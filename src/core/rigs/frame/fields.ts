import { type ControllerWords, controllerWordsSchema } from "../../motion/controller/words";
import { choice, number, onlyWhere, type RigField } from "../record";

export interface FrameRig {
  kind: "frame";
  carriages: "locked" | "free";
  near: "XY" | "XZ" | "YZ";
  far: "UV" | "UW" | "AB";
  drive: "belt" | "screw";
  stepsPerTurn: number;
  microsteps: number;
  travelPerTurn_mm: number;
  asked_mm: number | null;
  there_mm: number[];
  back_mm: number[];
  wide_mm: number;
  high_mm: number;
  pullOff_mm: number;
  switches: "closed" | "open";
  feed_mm_s: number;
  acceleration_mm_s2: number;
  mass_g: number;
  torque_N_mm: number;
  apart_mm: number;
  toBlock_mm: number;
  spring_mm: number;
  heat: "switch" | "share";
  heatAt: [number, number][];
  table: boolean;
  tableGear: number;
  passes: number;
  join: "apart" | "joined";
  bar_mm: number;
  first: "below" | "above";
  copies: number;
  gap_mm: number;
  ears: boolean;
  startX_mm: number | null;
  startY_mm: number | null;
  slitsAt: [number, number][];
  barsAt: [number, number][];
  curves: "lines" | "arcs";
  decimals: number;
  longest: number;
  blockX_mm: number;
  blockY_mm: number;
  face: "lower" | "upper" | "whole";
  numbered: boolean;
  ahead: number;
  sayTaken: string;
  sayRefused: string;
  sayFault: string;
  sayWhere: string;
  sayHold: string;
  sayResume: string;
  sayStop: string;
  sayHome: string;
  sayClear: string;
  /** after how long of silence the controller switches the heat off, s; null until somebody has measured it */
  watchdog_s: number | null;
}

const AXES = "carriages and axes";
const DRIVE = "drive, steps a millimetre";
const TRAVEL = "travel, home and speed";
const WIRE = "wire and block";
const HEAT = "heat";
const PATH = "path of a plan";
const WORDS = "controller's words";
const whole = (group: string, key: string, label: string, unit: string, min: number, max: number): RigField => ({
  as: "number",
  group,
  key,
  label,
  unit,
  min,
  max,
  whole: true,
});
export const FRAME_FIELDS: readonly RigField[] = [
  choice(AXES, "carriages", "Carriages", [
    ["locked", "two, locked together: two axes"],
    ["free", "two, each on its own: four axes"],
  ]),
  choice(AXES, "near", "Letters, along and up", [
    ["XY", "X and Y"],
    ["XZ", "X and Z"],
    ["YZ", "Y and Z"],
  ]),
  ...onlyWhere(
    "carriages",
    "free",
    choice(AXES, "far", "Letters of the far carriage", [
      ["UV", "U and V"],
      ["UW", "U and W"],
      ["AB", "A and B"],
    ]),
  ),
  choice(DRIVE, "drive", "Driven by", [
    ["belt", "a belt"],
    ["screw", "a screw"],
  ]),
  whole(DRIVE, "stepsPerTurn", "Steps of a turn", "steps", 1, 10_000),
  whole(DRIVE, "microsteps", "Microsteps", "to a step", 1, 256),
  number(DRIVE, "travelPerTurn_mm", "Travel of a turn", "length", 0.1, 1000, { decimals: 2 }),
  number(DRIVE, "asked_mm", "Measured: asked for", "length", 0.1, 10_000, { optional: true, decimals: 1, hint: "empty: not measured yet" }),
  {
    as: "numbers",
    group: DRIVE,
    key: "there_mm",
    label: "What came, going away from home, several times",
    quantity: "length",
    min: 0.1,
    max: 10_000,
    most: 12,
  },
  { as: "numbers", group: DRIVE, key: "back_mm", label: "and coming back", quantity: "length", min: 0.1, max: 10_000, most: 12 },
  number(TRAVEL, "wide_mm", "Travel along", "length", 10, 10_000),
  number(TRAVEL, "high_mm", "Travel up", "length", 10, 10_000),
  number(TRAVEL, "pullOff_mm", "Pulls off its switch by", "length", 0.2, 100, { decimals: 1 }),
  choice(TRAVEL, "switches", "Limit switches", [
    ["closed", "normally closed: a broken lead stops it, noise does not"],
    ["open", "normally open"],
  ]),
  number(TRAVEL, "feed_mm_s", "Fastest feed", "feed", 0.1, 500),
  { as: "number", group: TRAVEL, key: "acceleration_mm_s2", label: "Acceleration", unit: "mm/s²", min: 1, max: 20_000 },
  number(TRAVEL, "mass_g", "What an axis moves", "mass", 1, 100_000),
  {
    as: "number",
    group: TRAVEL,
    key: "torque_N_mm",
    label: "Motor's torque at that speed",
    unit: "N mm",
    min: 1,
    max: 100_000,
    hint: "off its own curve, not the holding torque",
  },
  number(WIRE, "apart_mm", "Carriage to carriage", "length", 20, 10_000),
  number(WIRE, "toBlock_mm", "Near carriage to the block", "length", 0, 10_000),
  number(WIRE, "spring_mm", "Spring's travel in hand", "length", 0, 1000, { decimals: 1 }),
  choice(HEAT, "heat", "Heat by", [
    ["switch", "a switch: on and off"],
    ["share", "a share: the S word"],
  ]),
  ...onlyWhere("heat", "share", {
    as: "rows" as const,
    group: HEAT,
    key: "heatAt",
    label: "Measured at the wire, one setting a line",
    columns: [
      { label: "S", min: 0, max: 100_000 },
      { label: "amps", min: 0, max: 500 },
    ],
    most: 20,
  }),
  { as: "switch", group: HEAT, key: "table", label: "a turntable turns the block between passes" },
  ...onlyWhere(
    "table",
    true,
    { as: "number" as const, group: HEAT, key: "tableGear", label: "Turns of the motor to one of the table", unit: "turns", min: 0.1, max: 1000 },
    whole(HEAT, "passes", "Passes round", "passes", 1, 360),
  ),
  choice(PATH, "join", "Islands", [
    ["apart", "left apart: travel through the waste"],
    ["joined", "joined by bars"],
  ]),
  ...onlyWhere("join", "joined", number(PATH, "bar_mm", "Bars, wide", "length", 0.5, 200, { decimals: 1 })),
  ...onlyWhere(
    "carriages",
    "free",
    choice(PATH, "face", "Face", [
      ["lower", "lower face"],
      ["upper", "upper face"],
      ["whole", "all round"],
    ]),
  ),
  choice(PATH, "first", "An outline is begun with its", [
    ["below", "lower side"],
    ["above", "upper side"],
  ]),
  whole(PATH, "copies", "Copies in the block", "copies", 1, 200),
  number(PATH, "gap_mm", "Foam between copies", "length", 1, 500, { decimals: 1 }),
  { as: "switch", group: PATH, key: "ears", label: "corners may be run past into the waste" },
  number(PATH, "startX_mm", "Begins at, along", "length", -1000, 10_000, { optional: true, hint: "empty: at the block's edge nearest home" }),
  number(PATH, "startY_mm", "and up", "length", -1000, 10_000, { optional: true }),
  ...onlyWhere("join", "apart", {
    as: "rows" as const,
    group: PATH,
    key: "slitsAt",
    label: "Slits are wanted near, one place a line",
    columns: [
      { label: "along", min: -1000, max: 10_000 },
      { label: "up", min: -1000, max: 10_000 },
    ],
    most: 60,
  }),
  ...onlyWhere("join", "joined", {
    as: "rows" as const,
    group: PATH,
    key: "barsAt",
    label: "Bars are wanted near, one place a line",
    columns: [
      { label: "along", min: -1000, max: 10_000 },
      { label: "up", min: -1000, max: 10_000 },
    ],
    most: 60,
  }),
  ...onlyWhere(
    "carriages",
    "locked",
    choice(PATH, "curves", "Curves in the program", [
      ["lines", "lines only"],
      ["arcs", "arcs too: fewer lines"],
    ]),
  ),
  whole(PATH, "decimals", "Decimals in the program", "", 1, 6),
  whole(PATH, "longest", "Longest line of the program", "characters", 40, 256),
  number(PATH, "blockX_mm", "Block's corner from home, along", "length", -1000, 10_000),
  number(PATH, "blockY_mm", "and up", "length", -1000, 10_000),
  { as: "switch", group: WORDS, key: "numbered", label: "each line is sent with N and its number" },
  {
    as: "number",
    group: WORDS,
    key: "watchdog_s",
    label: "Heat goes off after its line is silent for",
    unit: "s",
    min: 0.1,
    max: 60,
    optional: true,
    hint: "measured on this controller with the lead pulled out; empty: not known",
  },
  whole(WORDS, "ahead", "Lines sent ahead of those it has taken", "lines", 1, 256),
  ...(
    [
      ["sayTaken", "Its answer to a line it takes begins with"],
      ["sayRefused", "to a line it refuses"],
      ["sayFault", "what it says of a fault"],
      ["sayWhere", "To ask where it is"],
      ["sayHold", "to hold"],
      ["sayResume", "to go on"],
      ["sayStop", "to stop"],
      ["sayHome", "to home"],
      ["sayClear", "to clear a fault"],
    ] as const
  ).map(
    ([key, label]): RigField => ({
      as: "word",
      group: WORDS,
      key,
      label,
      most: 24,
      least: key === "sayTaken" || key === "sayRefused" ? 1 : 0,
      hint: key === "sayWhere" ? "empty: it knows none; \\x and two hexadecimal digits: one byte" : "",
    }),
  ),
];

/** The words of its controller's commands and reports. */
export const wordsOf = (rig: FrameRig): ControllerWords => ({
  numbered: rig.numbered,
  ahead: rig.ahead,
  taken: rig.sayTaken,
  refused: rig.sayRefused,
  fault: rig.sayFault,
  where: rig.sayWhere,
  hold: rig.sayHold,
  resume: rig.sayResume,
  stop: rig.sayStop,
  home: rig.sayHome,
  clear: rig.sayClear,
});

const words = controllerWordsSchema.parse({});

export const FRAME_START: FrameRig = {
  kind: "frame",
  carriages: "locked",
  near: "XY",
  far: "UV",
  drive: "belt",
  stepsPerTurn: 200,
  microsteps: 16,
  travelPerTurn_mm: 40,
  asked_mm: null,
  there_mm: [],
  back_mm: [],
  wide_mm: 450,
  high_mm: 450,
  pullOff_mm: 3,
  switches: "closed",
  feed_mm_s: 10,
  acceleration_mm_s2: 50,
  mass_g: 900,
  torque_N_mm: 200,
  apart_mm: 900,
  toBlock_mm: 100,
  spring_mm: 30,
  heat: "switch",
  heatAt: [],
  table: false,
  tableGear: 1,
  passes: 6,
  join: "apart",
  bar_mm: 6,
  first: "below",
  copies: 1,
  gap_mm: 10,
  ears: true,
  startX_mm: null,
  startY_mm: null,
  slitsAt: [],
  barsAt: [],
  curves: "lines",
  decimals: 4,
  longest: 120,
  blockX_mm: 20,
  blockY_mm: 20,
  face: "lower",
  numbered: words.numbered,
  ahead: words.ahead,
  sayTaken: words.taken,
  sayRefused: words.refused,
  sayFault: words.fault,
  sayWhere: words.where,
  sayHold: words.hold,
  sayResume: words.resume,
  sayStop: words.stop,
  sayHome: words.home,
  sayClear: words.clear,
  watchdog_s: null,
};
