import type { CutterKind } from "@/core/cutters/design/vocabulary";

/** A small line drawing of each kind of cutter: frame in graphite, wire in amber. 120 x 64 CSS pixels. */
export function CutterDrawing({ kind }: { kind: CutterKind }) {
  const frame = { fill: "none", stroke: "var(--graphite)", strokeWidth: 2.4, strokeLinecap: "round", strokeLinejoin: "round" } as const;
  const wire = { fill: "none", stroke: "var(--amber)", strokeWidth: 2, strokeLinecap: "round" } as const;
  const foam = { fill: "var(--foam-eps)", stroke: "var(--graphite-soft)", strokeWidth: 1 } as const;
  const body = {
    bow: (
      <>
        <path d="M12 8V54M108 8V54M12 30H108" {...frame} />
        <path d="M12 10H108" {...frame} strokeWidth={1.2} strokeDasharray="4 3" />
        <path d="M12 52H108" {...wire} />
      </>
    ),
    table: (
      <>
        <rect x="52" y="26" width="40" height="18" {...foam} />
        <path d="M8 44H112M18 44V60M102 44V60M30 44V6H62" {...frame} />
        <path d="M62 6V58" {...wire} />
      </>
    ),
    drop: (
      <>
        <rect x="30" y="30" width="60" height="24" {...foam} />
        <path d="M22 4V58M98 4V58M10 58H110" {...frame} />
        <path d="M22 26H98" {...wire} />
        <path d="M60 6V18M55 14l5 6 5 -6" {...frame} strokeWidth={1.6} />
      </>
    ),
    template: (
      <>
        <path d="M14 46Q30 16 66 34T106 44Z" {...foam} />
        <path d="M10 52H110M14 46Q30 16 66 34T106 44" {...frame} />
        <path d="M44 8L72 56" {...wire} />
      </>
    ),
    slicer: (
      <>
        <rect x="26" y="34" width="68" height="5" {...foam} />
        <path d="M8 50H112M18 50V28M102 50V28M18 22v6M102 22v6" {...frame} />
        <path d="M18 32H102" {...wire} />
      </>
    ),
    frame: (
      <>
        <rect x="34" y="26" width="52" height="24" {...foam} />
        <path d="M10 58H110M18 58V10M102 58V10M12 22h12v12H12zM96 22h12v12H96z" {...frame} />
        <path d="M24 28H96" {...wire} />
      </>
    ),
    loop: (
      <>
        <path d="M8 40L56 34M8 48L56 42" {...frame} />
        <path d="M56 34C78 10 112 22 104 40S70 56 56 42" {...wire} />
      </>
    ),
    wand: (
      <>
        <path d="M6 36H54V46H6z" {...frame} />
        <path d="M54 41H112" {...wire} />
      </>
    ),
  }[kind];
  return (
    <svg width="120" height="64" viewBox="0 0 120 64" aria-hidden="true" style={{ maxWidth: "100%" }}>
      {body}
    </svg>
  );
}
