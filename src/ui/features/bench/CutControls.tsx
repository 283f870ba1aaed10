import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import type { knobOf } from "@/core/cutters/solve/evaluate";
import { knobLook } from "@/core/physics/power/controls";
import { Tile, TileRow } from "../../kit/Tile";
import { useUnits } from "../../kit/useUnits";
import { SupplyLine, VEIL } from "./BenchFigures";
import { type HandMode, PACE_RANGE, PUSH_RANGE } from "./benchSession";
import type { BenchDesk } from "./useBenchSession";
import type { useHiss } from "./useHiss";

const MODES: readonly { mode: HandMode; words: string }[] = [
  { mode: "pace", words: "at a pace" },
  { mode: "lead", words: "by hand" },
  { mode: "push", words: "with a push" },
];
const CORNER_MM = 60;

/** A slider's name and its figure, large. */
function SliderHead({ name, figure, value }: { name: string; figure?: string; value: string }) {
  return (
    <div className="bench-slider-head">
      <span>{name}</span>
      <span className="num" data-figure={figure}>
        {value}
      </span>
    </div>
  );
}

/** The knob's figure in words, in its own unit. */
export function useKnobWords({ knob }: BenchDesk): string {
  const { show } = useUnits();
  if (!knob) return "";
  const look = knobLook(knob.kind);
  return knob.kind === "live" ? show("length", knob.value) : `${(knob.value * look.scale).toFixed(look.decimals)} ${look.unit}`;
}

function Knob({ desk }: { desk: BenchDesk }) {
  const words = useKnobWords(desk);
  const { knob, turn } = desk;
  if (!knob) return null;
  const look = knobLook(knob.kind);
  return (
    <div>
      <SliderHead name={look.name} figure="bench-knob" value={words} />
      <div className="bench-slider">
        <Slider
          aria-label={`Bench: ${look.name}`}
          disabled={!knob.free}
          value={knob.value * look.scale}
          min={knob.min * look.scale}
          max={knob.max * look.scale}
          step={knob.step * look.scale}
          getAriaValueText={() => words}
          onChange={(_, value) => turn((value as number) / look.scale)}
        />
      </div>
    </div>
  );
}

function HandControls({ desk }: { desk: BenchDesk }) {
  const { show } = useUnits();
  const { session, dispatch, hides, ended } = desk;
  const { mode, paceMmS, pushN, going } = session;
  if (mode === "lead")
    return (
      <p className="bench-words">Press on the picture and lead the posts down at your own pace; or press the down arrow, an eighth of an inch each time.</p>
    );
  return (
    <>
      <SliderHead name={mode === "pace" ? "Pace" : "Push"} value={mode === "push" ? show("force", pushN, 2) : hides("feed") ? VEIL : show("feed", paceMmS)} />
      <div className="bench-slider">
        {mode === "pace" ? (
          <Slider
            aria-label="Pace"
            min={PACE_RANGE.min}
            max={PACE_RANGE.max}
            step={0.1}
            value={paceMmS}
            onChange={(_, mmS) => dispatch({ kind: "pace", mmS: mmS as number })}
          />
        ) : (
          <Slider
            aria-label="Push"
            min={PUSH_RANGE.min}
            max={PUSH_RANGE.max}
            step={0.05}
            value={pushN}
            onChange={(_, newtons) => dispatch({ kind: "push", newtons: newtons as number })}
          />
        )}
      </div>
      <Button variant="contained" disabled={ended} onClick={() => dispatch({ kind: "going", going: !going })} sx={{ minHeight: 52 }}>
        {going ? "Stop" : mode === "pace" ? "Go" : "Rest it on"}
      </Button>
    </>
  );
}

function BlockChoices({ desk, hiss }: { desk: BenchDesk; hiss: ReturnType<typeof useHiss> }) {
  const { options, setOptions } = desk;
  return (
    <TileRow>
      <Tile chosen={options.corner_mm !== null} onClick={() => setOptions((old) => ({ ...old, corner_mm: old.corner_mm === null ? CORNER_MM : null }))}>
        a corner
      </Tile>
      <Tile chosen={options.recycled} onClick={() => setOptions((old) => ({ ...old, recycled: !old.recycled }))}>
        recycled board
      </Tile>
      <Tile chosen={false} onClick={() => setOptions((old) => ({ ...old, seed: old.seed + 1 }))}>
        another block
      </Tile>
      <Tile chosen={hiss.on} onClick={hiss.toggle}>
        sound
      </Tile>
    </TileRow>
  );
}

/** The controls of a cut by hand: heat, knob, how the wire is moved, and the block. */
export function CutControls({
  desk,
  hiss,
  openKnob,
  onTake,
}: {
  desk: BenchDesk;
  hiss: ReturnType<typeof useHiss>;
  /** the knob of the cutter that is open on the desk */
  openKnob: ReturnType<typeof knobOf>;
  onTake: () => void;
}) {
  const { bench, session, dispatch, lesson, knob, heatOn, ended } = desk;
  const knobWords = useKnobWords(desk);
  const { times } = session;
  return (
    <>
      {lesson && (
        <div className="lesson-brief">
          <strong>{lesson.title}.</strong> {lesson.goal}
          <div>{lesson.brief}</div>
        </div>
      )}
      <div className="bench-heat">
        <Button variant={heatOn ? "outlined" : "contained"} color={heatOn ? "error" : "primary"} onClick={() => desk.setHeat(!heatOn)}>
          {heatOn ? "Heat off" : "Heat on"}
        </Button>
        <SupplyLine bench={bench} />
      </div>
      <Knob desk={desk} />
      <div>
        <div className="bench-label">Take the wire through</div>
        <TileRow>
          {MODES.map(({ mode, words }) => (
            <Tile key={mode} chosen={session.mode === mode} onClick={() => dispatch({ kind: "mode", mode })}>
              {words}
            </Tile>
          ))}
        </TileRow>
      </div>
      <HandControls desk={desk} />
      <div className="bench-keys">
        <Button variant="outlined" onClick={desk.freshBlock}>
          Fresh block
        </Button>
        <Button variant="outlined" onClick={() => desk.setTimes(times === 0 ? 1 : 0)}>
          {times === 0 ? "Go on" : "Pause"}
        </Button>
        <Button onClick={() => desk.setTimes(times === 4 ? 1 : 4)} aria-pressed={times === 4}>
          {times === 4 ? "Real time" : "4 times faster"}
        </Button>
        {!ended && desk.inFoam && <Button onClick={() => void desk.finish()}>Look at the cut so far</Button>}
      </div>
      {!lesson && <BlockChoices desk={desk} hiss={hiss} />}
      {!lesson && knob && openKnob?.value !== knob.value && (
        <Button variant="outlined" onClick={onTake}>
          Put {knobWords} on the desk
        </Button>
      )}
    </>
  );
}
