import type { Quantity } from "../units/units";
import type { Plan } from "./plan";

type Show = (quantity: Quantity, value: number, decimals?: number) => string;

/** How templates are made and fixed, and where the wire may rest. Common practice. */
export function templateCraft({ template, panels }: Plan, show: Show): { title: string; words: string[] }[] {
  // Two panels share the templates of their joint.
  const pieces = (template.faces === "pair" ? 2 : 1) * (panels.length + 2);
  const edge = {
    metal: "File to the line.",
    laminate: "Saw near the line, then sand to it on a disc.",
    plywood: "Saw near the line, then sand to it on a disc.",
    card: "Cut on the line with a sharp knife.",
  }[template.material];
  return [
    {
      title: "Make them",
      words: [
        `Glue the plot on the sheet. ${edge} It takes ${pieces} of them.`,
        ...(template.pins.length > 0
          ? [
              template.faces === "pair"
                ? "Clamp upper and lower together and drill the pin holes through both, tight for a nail: then both faces lie on the same pins."
                : "Clamp the templates of both ends together and drill the pin holes through both, tight for a nail.",
            ]
          : []),
        "Sand the edge along the wire's way, never across, and polish it. A cross scratch stops the wire, and it melts a cavity.",
        "Write on both: numbers, base line, left or right, nose, top.",
      ],
    },
    {
      title: "Fix them",
      words: [
        "Pins sharp and parallel to each other: a blunt pin pushes the foam away, a tilted one catches the wire. Where the part is thin, hot glue or spray glue instead.",
        "Measure both ends from one centre line on the block.",
        template.ramp_mm > 0
          ? `The wire comes in by the ramp, ${show("length", template.ramp_mm)} long. Without one, a nail in front of the nose gives both ends a place to start from.`
          : "There is no ramp: set a nail in front of the nose, on which both ends of the wire rest before the start.",
        "Run a finger along every edge before every cut: nothing may rock, are out or scratch.",
      ],
    },
    {
      title: "Where the wire may rest",
      words: [
        ...(template.spar?.as === "slot" ? ["In the spar's slot, which will be filled."] : []),
        "At a corner, as long as the pace says.",
        template.runOut_mm > 0
          ? `On the run-out, ${show("length", template.runOut_mm)} behind the part.`
          : "Not at the tail: there is no run-out, and a stop there burns into the part.",
        "Nowhere else: a stop in the part burns a groove.",
      ],
    },
  ];
}
