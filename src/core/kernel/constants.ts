/** Exact or CODATA constants, SI. */
export const STEFAN_BOLTZMANN = 5.670374419e-8;
export const STANDARD_GRAVITY = 9.80665;
export const ZERO_CELSIUS_K = 273.15;
export const STANDARD_PRESSURE_PA = 101325;

/** Tunable judgements, each with its reason. Physical data are in `materials/`. */
export const JUDGEMENT = {
  /** Feed ratio above which a cut is called dragging: drag grows as x/(1-x) and has passed five times its reference here. */
  dragsAboveFeedRatio: 0.85,
  /** Widest kerf taken as clean unless the job says otherwise, mm. Common practice loses about 1 mm of foam a face. */
  acceptedKerfMm: 2.5,
  /** Bare wire above this glows plainly; no setting for foam needs it, degC. */
  glowingC: 650,
  /** The gap never closes wholly: least ratio of kerf to wire diameter in the gap formula (physics: estimate). */
  leastGapRatio: 1.05,
  /** Chopped or alternating current above this is a shock hazard to touch, V (IEC 61140 idea, AC limit). */
  touchAcV: 50,
  /** Ripple-free direct current above this gets a caution: half the 120 V limit, because workshops are damp. */
  touchDcCautionV: 60,
  /** Refused outright above this, V (IEC 61140 idea, ripple-free DC limit). */
  touchDcLimitV: 120,
  /** Most the mid-span bow may be, as a share of the span, before the taut-string formula is out of its range. */
  lagValidBelowSpanShare: 1 / 20,
  /** Coarse and fine step of feed that a cure may suggest, mm/s: what a person can pace with a stopwatch. */
  feedStepMmPerS: 0.1,
  /** Voltage step a cure may suggest, V: what a bench supply's knob resolves. */
  voltageStepV: 0.1,
  /** A cure should land inside the border, not on it: least share of the limit left in hand. */
  cureHeadroom: 0.02,
} as const;
