/** Supplies that kill: named so that they can be refused with their reason, never computed. */
export const LETHAL_SUPPLIES: Readonly<Record<string, { name: string; why: string }>> = {
  mains: { name: "Mains on the wire", why: "mains on the wire kills: it is refused, not computed. Use an isolated, earthed, fused extra-low-voltage supply." },
  "oven-transformer": {
    name: "Rewound oven transformer",
    why: "a rewound oven transformer kills, before and after rewinding: it is refused, not computed. Use a factory-made isolated supply.",
  },
  autotransformer: {
    name: "Autotransformer",
    why: "an autotransformer is not isolated from the mains: the wire can be at mains voltage. It is refused as a wire supply.",
  },
};
