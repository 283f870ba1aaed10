import { arm } from "./arm";
import { band } from "./band";
import type { TensionRecord } from "./record";
import { spring } from "./spring";
import { turnbuckle } from "./turnbuckle";
import { weight } from "./weight";

/** Every tension device there is, in the order choosers show them. The one list: a new kind is a file beside these and a word here. */
const RECORDS = [spring, weight, arm, turnbuckle, band] as const;

export type TensionDevice = (typeof RECORDS)[number]["device"];
export const TENSION_DEVICES = RECORDS.map(({ device }) => device) as [TensionDevice, ...TensionDevice[]];
export const TENSION_RECORDS: readonly TensionRecord<TensionDevice>[] = RECORDS;

const byDevice = new Map<string, TensionRecord<TensionDevice>>(RECORDS.map((record) => [record.device, record]));

/** The record of a tension device. */
export function tensionRecord(device: TensionDevice): TensionRecord<TensionDevice> {
  const record = byDevice.get(device);
  if (!record) throw new Error(`no tension device is called ${device}`);
  return record;
}
