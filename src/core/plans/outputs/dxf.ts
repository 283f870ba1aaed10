import { Colors, DxfWriter, LWPolylineFlags, point2d, point3d, Units } from "@tarikjabiri/dxf";
import { layersOf, type OutDrawing } from "./drawing";

/** A drawing in the exchange format: polylines in mm, layers named in words, the unit said in its header. */
export function writeDxf(drawing: OutDrawing): string {
  const writer = new DxfWriter();
  writer.setUnits(Units.Millimeters);
  for (const layer of layersOf(drawing)) writer.addLayer(layer, Colors.White, "Continuous");
  for (const { layer, points, closed } of drawing.lines) {
    writer.addLWPolyline(
      points.map(([x, y]) => ({ point: point2d(x, y) })),
      { layerName: layer, flags: closed ? LWPolylineFlags.Closed : LWPolylineFlags.None },
    );
  }
  for (const { layer, at, heightMm, text } of drawing.texts)
    writer.addText(point3d(at[0], at[1], 0), heightMm, text.replaceAll(/[\r\n]+/g, " "), { layerName: layer });
  return writer.stringify();
}
