"use client";
import Popover from "@mui/material/Popover";
import type { Caution } from "@/core/cutters/solve/cautions";
import { describeVerdict } from "@/core/cutters/solve/describe";
import type { CautionPlace } from "@/core/cutters/solve/permanentAdvice";
import { PERMANENT_ADVICE } from "@/core/cutters/solve/permanentAdvice";
import type { PartId } from "../../../cutter/partId";
import { VerdictMark } from "../../../cutter/VerdictMark";
import { useUnits } from "../../../kit/useUnits";
import type { ChooserProps } from "./chooserProps";
import { FeedChooser, LengthChooser, RoomChooser, TensionChooser, ThicknessChooser, WidthChooser } from "./FigureChoosers";
import { FoamChooser } from "./FoamChooser";
import { ControlChooser, LeadsChooser, SupplyChooser } from "./PowerChoosers";
import { WireChooser } from "./WireChooser";

const CHOOSERS: Readonly<Record<PartId, { title: string; place?: CautionPlace; body: (props: ChooserProps) => React.ReactNode }>> = {
  foam: { title: "What are you cutting?", place: "foam", body: (props) => <FoamChooser {...props} /> },
  kerf: { title: "What are you cutting?", place: "foam", body: (props) => <FoamChooser {...props} /> },
  width: { title: "How wide?", body: (props) => <WidthChooser {...props} /> },
  thickness: { title: "How thick?", body: (props) => <ThicknessChooser {...props} /> },
  feed: { title: "How fast?", place: "feed", body: (props) => <FeedChooser {...props} /> },
  wire: { title: "Which wire?", place: "wire", body: (props) => <WireChooser {...props} /> },
  length: { title: "How long?", place: "wire", body: (props) => <LengthChooser {...props} /> },
  supply: { title: "Which supply?", place: "supply", body: (props) => <SupplyChooser {...props} /> },
  control: { title: "What turns the heat?", place: "control", body: (props) => <ControlChooser {...props} /> },
  leads: { title: "Which leads?", place: "supply", body: (props) => <LeadsChooser {...props} /> },
  tension: { title: "What pulls it straight?", place: "tension", body: (props) => <TensionChooser {...props} /> },
  room: { title: "How warm is the room?", body: (props) => <RoomChooser {...props} /> },
};

export type OpenChooserProps = ChooserProps & { part: PartId | null; anchor: HTMLElement | null; onClose: () => void };

/** The small rich chooser of one part, in place, with that part's cautions at its head. */
export function Chooser({ part, anchor, onClose, ...props }: OpenChooserProps) {
  const { system } = useUnits();
  const chooser = part ? CHOOSERS[part] : null;
  const cautions: Caution[] = props.evaluation.cautions.filter((caution) => caution.place === chooser?.place);
  return (
    <Popover
      open={chooser !== null && anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
      slotProps={{
        paper: {
          sx: { p: 2, maxWidth: part === "wire" ? 830 : 640, width: part === "wire" ? 830 : "fit-content", maxHeight: "max(420px, calc(100vh - 206px))" },
          role: "dialog",
          "aria-label": chooser?.title,
        },
      }}
    >
      {chooser && (
        <>
          <div style={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", gap: 24, marginBottom: 10 }}>
            <h2 style={{ margin: 0, fontSize: 20 }}>{chooser.title}</h2>
            <span style={{ fontSize: 15, display: "inline-flex", gap: 8, alignItems: "center" }}>
              <VerdictMark verdict={props.evaluation.verdict} />
              {describeVerdict(props.design, props.evaluation, system).headline}
            </span>
          </div>
          {cautions.map((caution) => (
            <p
              key={caution.code}
              role="note"
              style={{
                margin: "0 0 10px",
                borderLeft: `5px solid var(--${caution.severity === "danger" ? "ember" : "straw"})`,
                paddingLeft: 10,
                maxWidth: 560,
              }}
            >
              <strong>{caution.severity === "danger" ? "Danger. " : "Caution. "}</strong>
              {caution.words(system)}
            </p>
          ))}
          {chooser.body(props)}
          {chooser.place && (
            <p style={{ margin: "12px 0 0", fontSize: 13.5, color: "var(--graphite-soft)", maxWidth: 560 }}>{PERMANENT_ADVICE[chooser.place]}</p>
          )}
        </>
      )}
    </Popover>
  );
}
