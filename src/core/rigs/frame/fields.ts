import { type ControllerWords, controllerWordsSchema } from "../../motion/controller/words";
import { choice, number, numberList, onlyWhere, plain, rows, startOf, toggle, type ValuesOf, word } from "../../units/field";

const AXES = "carriages and axes";
const DRIVE = "drive, steps a millimetre";
const TRAVEL = "travel, home and speed";
const WIRE = "wire and block";
const HEAT = "heat";
const PATH = "path of a plan";
const WORDS = "controller's words";
/** Words of a controller as it comes. */
const SAID = controllerWordsSchema.parse({});
export const FRAME_FIELDS = [
  choice(
    AXES,
    "carriages",
    "Carriages",
    [
      ["locked", "two, locked together: two axes"],
      ["free", "two, each on its own: four axes"],
    ],
    "locked",
  ),
  choice(
    AXES,
    "near",
    "Letters, along and up",
    [
      ["XY", "X and Y"],
      ["XZ", "X and Z"],
      ["YZ", "Y and Z"],
    ],
    "XY",
  ),
  ...onlyWhere(
    "carriages",
    "free",
    choice(
      AXES,
      "far",
      "Letters of the far carriage",
      [
        ["UV", "U and V"],
        ["UW", "U and W"],
        ["AB", "A and B"],
      ],
      "UV",
    ),
  ),
  choice(
    DRIVE,
    "drive",
    "Driven by",
    [
      ["belt", "a belt"],
      ["screw", "a screw"],
    ],
    "belt",
  ),
  plain(DRIVE, "stepsPerTurn", "Steps of a turn", "steps", [1, 10_000], 200, { whole: true }),
  plain(DRIVE, "microsteps", "Microsteps", "to a step", [1, 256], 16, { whole: true }),
  number(DRIVE, "travelPerTurn_mm", "Travel of a turn", "length", [0.1, 1000], 40, { decimals: 2 }),
  number(DRIVE, "asked_mm", "Measured: asked for", "length", [0.1, 10_000], null, { decimals: 1, hint: "empty: not measured yet" }),
  numberList(DRIVE, "there_mm", "What came, going away from home, several times", "length", [0.1, 10_000], 12),
  numberList(DRIVE, "back_mm", "and coming back", "length", [0.1, 10_000], 12),
  number(TRAVEL, "wide_mm", "Travel along", "length", [10, 10_000], 450),
  number(TRAVEL, "high_mm", "Travel up", "length", [10, 10_000], 450),
  number(TRAVEL, "pullOff_mm", "Pulls off its switch by", "length", [0.2, 100], 3, { decimals: 1 }),
  choice(
    TRAVEL,
    "switches",
    "Limit switches",
    [
      ["closed", "normally closed: a broken lead stops it, noise does not"],
      ["open", "normally open"],
    ],
    "closed",
  ),
  number(TRAVEL, "feed_mm_s", "Fastest feed", "feed", [0.1, 500], 10),
  plain(TRAVEL, "acceleration_mm_s2", "Acceleration", "mm/s²", [1, 20_000], 50),
  number(TRAVEL, "mass_g", "What an axis moves", "mass", [1, 100_000], 900),
  plain(TRAVEL, "torque_N_mm", "Motor's torque at that speed", "N mm", [1, 100_000], 200, { hint: "off its own curve, not the holding torque" }),
  number(WIRE, "apart_mm", "Carriage to carriage", "length", [20, 10_000], 900),
  number(WIRE, "toBlock_mm", "Near carriage to the block", "length", [0, 10_000], 100),
  number(WIRE, "spring_mm", "Spring's travel in hand", "length", [0, 1000], 30, { decimals: 1 }),
  choice(
    HEAT,
    "heat",
    "Heat by",
    [
      ["switch", "a switch: on and off"],
      ["share", "a share: the S word"],
    ],
    "switch",
  ),
  ...onlyWhere(
    "heat",
    "share",
    rows(
      HEAT,
      "heatAt",
      "Measured at the wire, one setting a line",
      [
        { label: "S", min: 0, max: 100_000 },
        { label: "amps", min: 0, max: 500 },
      ],
      20,
    ),
  ),
  toggle(HEAT, "table", "a turntable turns the block between passes"),
  ...onlyWhere(
    "table",
    true,
    plain(HEAT, "tableGear", "Turns of the motor to one of the table", "turns", [0.1, 1000], 1),
    plain(HEAT, "passes", "Passes round", "passes", [1, 360], 6, { whole: true }),
  ),
  choice(
    PATH,
    "join",
    "Islands",
    [
      ["apart", "left apart: travel through the waste"],
      ["joined", "joined by bars"],
    ],
    "apart",
  ),
  ...onlyWhere("join", "joined", number(PATH, "bar_mm", "Bars, wide", "length", [0.5, 200], 6, { decimals: 1 })),
  ...onlyWhere(
    "carriages",
    "free",
    choice(
      PATH,
      "face",
      "Face",
      [
        ["lower", "lower face"],
        ["upper", "upper face"],
        ["whole", "all round"],
      ],
      "lower",
    ),
  ),
  choice(
    PATH,
    "first",
    "An outline is begun with its",
    [
      ["below", "lower side"],
      ["above", "upper side"],
    ],
    "below",
  ),
  plain(PATH, "copies", "Copies in the block", "copies", [1, 200], 1, { whole: true }),
  number(PATH, "gap_mm", "Foam between copies", "length", [1, 500], 10, { decimals: 1 }),
  toggle(PATH, "ears", "corners may be run past into the waste", true),
  number(PATH, "startX_mm", "Begins at, along", "length", [-1000, 10_000], null, { hint: "empty: at the block's edge nearest home" }),
  number(PATH, "startY_mm", "and up", "length", [-1000, 10_000], null),
  ...onlyWhere(
    "join",
    "apart",
    rows(
      PATH,
      "slitsAt",
      "Slits are wanted near, one place a line",
      [
        { label: "along", min: -1000, max: 10_000 },
        { label: "up", min: -1000, max: 10_000 },
      ],
      60,
    ),
  ),
  ...onlyWhere(
    "join",
    "joined",
    rows(
      PATH,
      "barsAt",
      "Bars are wanted near, one place a line",
      [
        { label: "along", min: -1000, max: 10_000 },
        { label: "up", min: -1000, max: 10_000 },
      ],
      60,
    ),
  ),
  ...onlyWhere(
    "carriages",
    "locked",
    choice(
      PATH,
      "curves",
      "Curves in the program",
      [
        ["lines", "lines only"],
        ["arcs", "arcs too: fewer lines"],
      ],
      "lines",
    ),
  ),
  plain(PATH, "decimals", "Decimals in the program", "", [1, 6], 4, { whole: true }),
  plain(PATH, "longest", "Longest line of the program", "characters", [40, 256], 120, { whole: true }),
  number(PATH, "blockX_mm", "Block's corner from home, along", "length", [-1000, 10_000], 20),
  number(PATH, "blockY_mm", "and up", "length", [-1000, 10_000], 20),
  toggle(WORDS, "numbered", "each line is sent with N and its number", SAID.numbered),
  plain(WORDS, "watchdog_s", "Heat goes off after its line is silent for", "s", [0.1, 60], null, {
    hint: "measured on this controller with the lead pulled out; empty: not known",
  }),
  plain(WORDS, "ahead", "Lines sent ahead of those it has taken", "lines", [1, 256], SAID.ahead, { whole: true }),
  word(WORDS, "sayTaken", "Its answer to a line it takes begins with", [1, 24], SAID.taken),
  word(WORDS, "sayRefused", "to a line it refuses", [1, 24], SAID.refused),
  word(WORDS, "sayFault", "what it says of a fault", [0, 24], SAID.fault),
  word(WORDS, "sayWhere", "To ask where it is", [0, 24], SAID.where, "empty: it knows none; \\x and two hexadecimal digits: one byte"),
  word(WORDS, "sayHold", "to hold", [0, 24], SAID.hold),
  word(WORDS, "sayResume", "to go on", [0, 24], SAID.resume),
  word(WORDS, "sayStop", "to stop", [0, 24], SAID.stop),
  word(WORDS, "sayHome", "to home", [0, 24], SAID.home),
  word(WORDS, "sayClear", "to clear a fault", [0, 24], SAID.clear),
];
export type FrameRig = { kind: "frame" } & ValuesOf<typeof FRAME_FIELDS>;

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

export const FRAME_START: FrameRig = startOf("frame", FRAME_FIELDS);
