/** Counts what is done with a pointer held down, so that all of one drag is one step back, however slow the machine or the hand. */

let held = 0;
let started = 0;

if (typeof window !== "undefined") {
  const pointers = new Set<number>();
  const ended = ({ pointerId }: PointerEvent) => {
    pointers.delete(pointerId);
    if (pointers.size === 0) held = 0;
  };
  window.addEventListener(
    "pointerdown",
    ({ pointerId }) => {
      pointers.add(pointerId);
      started += 1;
      held = started;
    },
    { capture: true },
  );
  for (const name of ["pointerup", "pointercancel"] as const) window.addEventListener(name, ended, { capture: true });
}

/** @returns the number of the drag under way, or null while no pointer is down */
export const gestureHeld = (): number | null => held || null;
