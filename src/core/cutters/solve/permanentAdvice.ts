/** The choice a caution is beside. */
export type CautionPlace = "foam" | "wire" | "supply" | "control" | "feed" | "tension" | "wiring";

/** Words that always belong next to a choice, regardless of the figures. */
export const PERMANENT_ADVICE: Readonly<Record<CautionPlace, string>> = {
  foam: "Only polystyrene, polypropylene and polyethylene foams meet a hot wire here. Open doors or extract at the wire.",
  wire: "A breaking wire lashes: glasses, long sleeves, stay out of its line. It stays hot for seconds after switch-off.",
  supply: "Extra-low voltage only, from a factory-made, isolated, fused supply. Anything on the mains side: local electrical codes and a licensed electrician.",
  control: "The control must carry the full on-current. A foot or hand switch that opens when let go keeps the heat attended.",
  tension: "Glasses on, out of the wire's line. Slacken it in storage; timber creeps and springs settle: check again after a few days (common practice).",
  wiring: "Plan it, check it, then plug it in. Local electrical codes rule; anything on the mains side is for a licensed electrician.",
  feed: "Wait some seconds after every change of heat, test on a piece as wide as the job, and judge after an inch: the first stretch goes by stored heat alone (common practice).",
};
