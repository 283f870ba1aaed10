"use client";
import { later } from "./later";
import type { Shortcut, ShortcutsProps } from "./ShortcutsFrame";

export const DESK_SHORTCUTS: readonly Shortcut[] = [
  { keys: "F", does: "foam" },
  { keys: "W", does: "wire" },
  { keys: "S", does: "supply" },
  { keys: "C", does: "control" },
  { keys: "T", does: "tension" },
  { keys: "V", does: "feed" },
  { keys: "P", does: "go to the working point" },
  { keys: "arrows", does: "on the working point: feed and heat, ten steps with Shift" },
  { keys: "Ctrl Z", does: "undo" },
  { keys: "Ctrl Y", does: "redo" },
  { keys: "G", does: "find set-ups for this job" },
  { keys: "D", does: "desk" },
  { keys: "N", does: "tension, frame and tuner" },
  { keys: "E", does: "bench: H heat, - and = the knob, up and down the pace, space go or stop, P pause, R fresh block" },
  { keys: "X", does: "wiring" },
  { keys: "B", does: "build sheet" },
  { keys: "K", does: "cut and log: the space bar is its stopwatch" },
  { keys: "U", does: "millimetres or inches" },
  { keys: "L", does: "all cutters" },
  { keys: "?", does: "this list" },
];

export const ShortcutsDialog = later<ShortcutsProps>(
  () => import("./ShortcutsFrame").then((module) => module.ShortcutsFrame),
  ({ open }) => open,
);
