import { buck } from "./buck";
import { clip } from "./clip";
import { direct, ownVolts } from "./direct";
import { held } from "./held";
import { phase } from "./phase";
import { pwm } from "./pwm";
import type { AnyControl, AnyRecord, ControlRecord } from "./record";
import { rheostat } from "./rheostat";
import { tap } from "./tap";

/** Every control there is, in the order choosers show them. The one list: a new kind is a file beside these and a word here. */
const RECORDS = [direct, pwm, buck, held, rheostat, clip, phase, tap] as const;

type ControlOf<R> = R extends ControlRecord<infer C> ? C : never;
/** What turns the heat up and down. */
export type Control = ControlOf<(typeof RECORDS)[number]>;
export type ControlKind = Control["kind"];

export { ownVolts };
export const CONTROLS = RECORDS as unknown as readonly AnyRecord[];
export const CONTROL_KINDS = RECORDS.map((record) => record.kind) as readonly ControlKind[];

const byKind = new Map(RECORDS.map((record) => [record.kind as string, record as unknown as AnyRecord]));

/** The record of a control's kind. */
export function controlRecord(kind: ControlKind): AnyRecord {
  const record = byKind.get(kind);
  if (!record) throw new Error(`no control of the kind ${kind}`);
  return record;
}

/** The record of a control with the control itself, for asking one of the other. */
export const recordOf = (control: Control): { record: AnyRecord; own: AnyControl & Record<string, unknown> } => ({
  record: controlRecord(control.kind),
  own: control as unknown as AnyControl & Record<string, unknown>,
});

/** How a knob is called, shown and set, anyone who has it: a control, or a supply with a volts knob of its own. */
export type KnobLook = typeof ownVolts;
const LOOKS = new Map<string, KnobLook>([
  [ownVolts.id, ownVolts],
  ...CONTROLS.flatMap(({ knob }) => (knob ? ([[knob.id, knob as unknown as KnobLook]] as const) : [])),
]);

/** @param id as a {@link KnobLook} names itself */
export function knobLook(id: string): KnobLook {
  const look = LOOKS.get(id);
  if (!look) throw new Error(`no knob is called ${id}`);
  return look;
}

/** The control whose knob has this id. */
export const controlOfKnob = (id: string): AnyRecord | undefined => CONTROLS.find((record) => record.knob?.id === id);

/** Kinds that can lie in a drawer: a direct connection needs no part, a clip is made of a clip. */
export const OWNED_CONTROLS = RECORDS.filter((record) => record.owned).map((record) => record.kind) as readonly ControlKind[];
