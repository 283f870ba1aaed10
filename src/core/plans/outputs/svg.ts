import { slugged } from "../../kernel/fileStem";
import { extentOf, layersOf, type OutDrawing } from "./drawing";

const escaped = (text: string) => text.replaceAll("&", "&amp;").replaceAll("<", "&lt;").replaceAll(">", "&gt;").replaceAll('"', "&quot;");
const figure = (value: number) => String(Number(value.toFixed(4)));

/** A drawing as SVG at full size: width and height in mm, one unit a millimetre, a group for each layer. */
export function writeSvg(drawing: OutDrawing): string {
  const { minX, minY, maxX, maxY } = extentOf(drawing);
  const [width, height] = [maxX - minX, maxY - minY];
  const at = ([x, y]: readonly [number, number]) => `${figure(x - minX)} ${figure(maxY - y)}`;
  const groups = layersOf(drawing).map((layer) => {
    const lines = drawing.lines
      .filter((line) => line.layer === layer)
      .map(({ points, closed }) => `<path d="M${points.map(at).join("L")}${closed ? "Z" : ""}"/>`);
    const texts = drawing.texts
      .filter((text) => text.layer === layer)
      .map(
        (text) =>
          `<text x="${figure(text.at[0] - minX)}" y="${figure(maxY - text.at[1])}" font-size="${figure(text.heightMm)}" fill="black" stroke="none">${escaped(text.text)}</text>`,
      );
    return `<g id="${escaped(slugged(layer))}">\n<title>${escaped(layer)}</title>\n${[...lines, ...texts].join("\n")}\n</g>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${figure(width)}mm" height="${figure(height)}mm" viewBox="0 0 ${figure(width)} ${figure(height)}" fill="none" stroke="black" stroke-width="0.1" font-family="sans-serif">
<title>${escaped(drawing.title)}</title>
${groups.join("\n")}
</svg>
`;
}
