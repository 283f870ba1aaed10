/** Entities that the parsing package reads not at all, or not fully. */

export interface Xy {
  x: number;
  y: number;
  bulge?: number;
}
/** What of any entity is read. */
export interface Entity {
  type: string;
  layer?: string;
  visible?: boolean;
  vertices?: Xy[];
  shape?: boolean;
  center?: Xy;
  radius?: number;
  startAngle?: number;
  endAngle?: number;
  majorAxisEndPoint?: Xy;
  axisRatio?: number;
  controlPoints?: Xy[];
  fitPoints?: Xy[];
  startTangent?: Xy;
  endTangent?: Xy;
  knotValues?: number[];
  weights?: number[];
  degreeOfSplineCurve?: number;
  closed?: boolean;
  /** boundary paths of a hatch, each of lines that join */
  paths?: Entity[][];
  name?: string;
  position?: Xy;
  xScale?: number;
  yScale?: number;
  rotation?: number;
  columnCount?: number;
  rowCount?: number;
  columnSpacing?: number;
  rowSpacing?: number;
  inPaperSpace?: boolean;
  extrusionDirection?: Xy & { z?: number };
  extrusionDirectionZ?: number;
}

interface Group {
  code: number;
  value: unknown;
}
interface Scanner {
  next: () => Group;
  isEOF: () => boolean;
}

/** Groups of one entity, up to the next one. */
function groupsOf(scanner: Scanner): { code: number; value: number; text: string }[] {
  const groups: { code: number; value: number; text: string }[] = [];
  for (let group = scanner.next(); !scanner.isEOF() && group.code !== 0; group = scanner.next())
    groups.push({ code: group.code, value: Number(group.value), text: String(group.value) });
  return groups;
}

/** What every entity may have. */
function common(entity: Entity, { code, value, text }: { code: number; value: number; text: string }): void {
  if (code === 8) entity.layer = text;
  else if (code === 60) entity.visible = value === 0;
  else if (code === 67) entity.inPaperSpace = value !== 0;
  else if (code === 230) entity.extrusionDirectionZ = value;
}

/** Splines with their weights and end tangents. */
export class SplineReader {
  ForEntityName = "SPLINE" as const;
  parseEntity(scanner: Scanner, start: Group): Entity {
    const entity = { type: String(start.value), controlPoints: [] as Xy[], fitPoints: [] as Xy[], knotValues: [] as number[], weights: [] as number[] };
    const more: Entity = entity;
    let into: Xy | null = null;
    for (const group of groupsOf(scanner)) {
      const { code, value } = group;
      if (code >= 10 && code <= 13) {
        into = { x: value, y: 0 };
        if (code === 10) entity.controlPoints.push(into);
        else if (code === 11) entity.fitPoints.push(into);
        else if (code === 12) more.startTangent = into;
        else more.endTangent = into;
      } else if (code >= 20 && code <= 23) {
        if (into) into.y = value;
      } else if (code === 40) entity.knotValues.push(value);
      else if (code === 41) entity.weights.push(value);
      else if (code === 70) more.closed = (value & 1) !== 0;
      else if (code === 71) more.degreeOfSplineCurve = value;
      else common(entity, group);
    }
    return entity;
  }
}

const RAD = Math.PI / 180;

/** An edge of a hatch's boundary from its groups. */
function edgeOf(kind: number, groups: readonly { code: number; value: number }[]): Entity | null {
  const all = (code: number) => groups.filter((group) => group.code === code).map(({ value }) => value);
  const one = (code: number) => all(code)[0] ?? 0;
  const points = (code: number): Xy[] => all(code).map((x, i) => ({ x, y: all(code + 10)[i] ?? 0 }));
  const [centre = { x: 0, y: 0 }] = points(10);
  // Angles of an edge that runs clockwise are counted clockwise.
  const [from, to] = one(73) === 1 ? [one(50), one(51)] : [-one(51), -one(50)];
  switch (kind) {
    case 1:
      return { type: "LINE", vertices: [centre, points(11)[0] ?? centre] };
    case 2:
      return { type: "ARC", center: centre, radius: one(40), startAngle: from * RAD, endAngle: to * RAD };
    case 3:
      return { type: "ELLIPSE", center: centre, majorAxisEndPoint: points(11)[0] ?? centre, axisRatio: one(40), startAngle: from * RAD, endAngle: to * RAD };
    case 4:
      return { type: "SPLINE", controlPoints: points(10), fitPoints: points(11), knotValues: all(40), weights: all(42), degreeOfSplineCurve: one(94) };
    default:
      return null;
  }
}

/** Hatches by their boundaries (groups 91 to 97 of the published format). */
export class HatchReader {
  ForEntityName = "HATCH" as const;
  parseEntity(scanner: Scanner, start: Group): Entity {
    const paths: Entity[][] = [];
    const entity: Entity = { type: String(start.value), paths };
    const groups = groupsOf(scanner);
    const begin = groups.findIndex(({ code }) => code === 91);
    for (const group of groups.slice(0, begin < 0 ? groups.length : begin)) common(entity, group);
    if (begin < 0) return entity;
    // A path begins with 92 and ends with 97, the count of things it was taken from. Pattern and seed points follow the last.
    let at = begin + 1;
    for (let left = groups[begin]?.value ?? 0; left > 0 && groups[at]?.code === 92; left--) {
      const flag = groups[at]?.value ?? 0;
      let end = at + 1;
      // Within a spline's edge 97 counts its fit points.
      const isEnd = (i: number) => groups[i]?.code === 92 || groups[i]?.code === 75 || (groups[i]?.code === 97 && groups[i + 1]?.code !== 11);
      while (end < groups.length && !isEnd(end)) end++;
      paths.push(pathOf(groups.slice(at + 1, end), flag));
      while (end < groups.length && groups[end]?.code !== 92 && groups[end]?.code !== 75) end++;
      at = end;
    }
    return entity;
  }
}

function pathOf(groups: readonly { code: number; value: number }[], flag: number): Entity[] {
  if ((flag & 2) !== 0) {
    const vertices: Xy[] = [];
    for (const { code, value } of groups) {
      const last = vertices.at(-1);
      if (code === 10) vertices.push({ x: value, y: 0 });
      else if (code === 20 && last) last.y = value;
      else if (code === 42 && last) last.bulge = value;
    }
    return [{ type: "LWPOLYLINE", vertices, shape: true }];
  }
  const starts = groups.flatMap(({ code }, i) => (code === 72 ? [i] : []));
  return starts.map((from, i) => edgeOf(groups[from]?.value ?? 0, groups.slice(from + 1, starts[i + 1] ?? groups.length))).filter((edge) => edge !== null);
}
