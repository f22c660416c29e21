import { drawingBox, plainNumber, type Drawing, type DrawingLayer, type Shape } from '../drawing.ts';
import type { DxfDrawing } from './dxf-drawing.ts';
import { blockEntities, insertPairs } from './blocks.ts';
import { encodeText, H, Handles, num, safeNames, section, type Pair } from './pairs.ts';
import { OWN_DATA, UNDERLAY_CLASSES, UnderlayObjects } from './underlays.ts';

/**
 * Writes DXF AC1015 (release 2000), ASCII; with sheets that it refers to AC1021 (release 2007), which has PDF underlays. Cannot carry:
 * fills (a region becomes closed polylines), fonts beyond the standard one, line widths in true size.
 */

export type DxfUnits = 'mm' | 'm' | 'in' | 'ft';
/** $INSUNITS codes and millimetres per unit (DXF reference, header variables). */
const UNITS: Record<DxfUnits, { code: number; mm: number; metric: boolean }> = {
  mm: { code: 4, mm: 1, metric: true },
  m: { code: 6, mm: 1000, metric: true },
  in: { code: 1, mm: 25.4, metric: false },
  ft: { code: 2, mm: 304.8, metric: false },
};

/** Line types by their dashes: each pattern that is met is written once. */
class LineTypes {
  readonly names = new Map<string, { name: string; dash: readonly number[] }>();

  nameOf(dash: readonly number[] | undefined): string | null {
    if (!dash || dash.length === 0) return null;
    const key = dash.join();
    const known = this.names.get(key) ?? { name: `Dashes ${this.names.size + 1}`, dash };
    this.names.set(key, known);
    return known.name;
  }
}

/** Weights that layers may have, hundredths of a millimetre (DXF reference, group 370). */
const WEIGHTS = [
  0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211,
];
const weightCode = (mm: number | undefined): number =>
  mm === undefined
    ? -3
    : WEIGHTS.reduce((best, w) => (Math.abs(w - 100 * mm) < Math.abs(best - 100 * mm) ? w : best));

export function writeDxf(drawing: Drawing & Partial<DxfDrawing>, units: DxfUnits): string {
  const { code, mm, metric } = UNITS[units],
    k = 1 / mm;
  const { blocks = [], inserts = [], underlays = [] } = drawing;
  const handles = new Handles();
  const layerNames = safeNames(drawing.layers.map((l) => l.name)),
    blockNames = safeNames(blocks.map((b) => b.name));
  const layerOf = (name: string) => layerNames.get(name) ?? '0';
  const dashes = new LineTypes();
  const records = new Map(
    blocks.map((b) => [
      b.name,
      { name: blockNames.get(b.name)!, record: handles.take(), begin: handles.take(), end: handles.take() },
    ]),
  );
  const sheets = new UnderlayObjects(underlays, k, handles, layerOf);
  const draw = (shapes: readonly Shape[], owner: string) =>
    shapes.flatMap((shape) => shapePairs(shape, layerOf(shape.layer), k, handles, dashes, owner));
  const entities = [
    ...sheets.entities,
    ...draw(drawing.shapes, H.modelRecord),
    ...inserts.flatMap((i) =>
      insertPairs(i, layerOf(i.layer), records.get(i.block)!.name, k, handles.take()),
    ),
  ];
  const contents = blocks.flatMap((b) => {
    const { name, record: owner, begin, end } = records.get(b.name)!;
    return blockEntities(name, begin, end, owner, draw(b.shapes, owner));
  });
  const pairs: Pair[] = [
    ...section('HEADER', [
      [9, '$ACADVER'],
      [1, underlays.length > 0 ? 'AC1021' : 'AC1015'],
      [9, '$DWGCODEPAGE'],
      [3, 'ANSI_1252'],
      [9, '$INSUNITS'],
      [70, code],
      [9, '$MEASUREMENT'],
      [70, metric ? 1 : 0],
      [9, '$LUNITS'],
      [70, 2],
      [9, '$LUPREC'],
      [70, 4],
      ...extents(drawing, k),
      [9, '$HANDSEED'],
      [5, 'FFFFF'],
    ]),
    ...section('CLASSES', underlays.length > 0 ? UNDERLAY_CLASSES : []),
    ...section('TABLES', tables(drawing, layerNames, handles, dashes, k, [...records.values()])),
    ...section('BLOCKS', [
      ...blockEntities('*Model_Space', H.modelBlock, H.modelEnd, H.modelRecord),
      ...blockEntities('*Paper_Space', H.paperBlock, H.paperEnd, H.paperRecord, [], true),
      ...contents,
    ]),
    ...section('ENTITIES', entities),
    ...section('OBJECTS', [
      [0, 'DICTIONARY'],
      [5, H.dictionary],
      [330, '0'],
      [100, 'AcDbDictionary'],
      [281, 1],
      [3, 'ACAD_GROUP'],
      [350, H.groups],
      ...sheets.inRoot,
      [0, 'DICTIONARY'],
      [5, H.groups],
      [330, H.dictionary],
      [100, 'AcDbDictionary'],
      [281, 1],
      ...sheets.objects,
    ]),
    [0, 'EOF'],
  ];
  return pairs
    .map(
      ([group, value]) =>
        `${String(group).padStart(3)}\r\n${typeof value === 'number' && !Number.isInteger(value) ? plainNumber(value) : value}\r\n`,
    )
    .join('');
}

function extents(drawing: Drawing, k: number): Pair[] {
  const box = drawingBox(drawing);
  if (!box) return [];
  const [x0, y0, x1, y1] = box.map((v) => num(v * k));
  return [
    [9, '$EXTMIN'],
    [10, x0],
    [20, y0],
    [30, '0.0'],
    [9, '$EXTMAX'],
    [10, x1],
    [20, y1],
    [30, '0.0'],
  ];
}

function table(name: string, handle: string, rows: Pair[][]): Pair[] {
  return [
    [0, 'TABLE'],
    [2, name],
    [5, handle],
    [330, '0'],
    [100, 'AcDbSymbolTable'],
    [70, rows.length],
    ...rows.flat(),
    [0, 'ENDTAB'],
  ];
}

function record(type: string, handle: string, owner: string, subclass: string, body: Pair[]): Pair[] {
  return [
    [0, type],
    [type === 'DIMSTYLE' ? 105 : 5, handle],
    [330, owner],
    [100, 'AcDbSymbolTableRecord'],
    [100, subclass],
    ...body,
  ];
}

function tables(
  drawing: Drawing,
  names: Map<string, string>,
  handles: Handles,
  dashes: LineTypes,
  k: number,
  blocks: readonly { name: string; record: string }[],
): Pair[] {
  const linetype = (handle: string, name: string, text: string) =>
    record('LTYPE', handle, H.ltype, 'AcDbLinetypeTableRecord', [
      [2, name],
      [70, 0],
      [3, text],
      [72, 65],
      [73, 0],
      [40, '0.0'],
    ]);
  const dashed = ({ name, dash }: { name: string; dash: readonly number[] }) =>
    record('LTYPE', handles.take(), H.ltype, 'AcDbLinetypeTableRecord', [
      [2, name],
      [70, 0],
      [3, ''],
      [72, 65],
      [73, dash.length],
      [40, num(k * dash.reduce((a, b) => a + b, 0))],
      ...dash.flatMap((d, i): Pair[] => [
        [49, num((i % 2 === 0 ? 1 : -1) * k * d)],
        [74, 0],
      ]),
    ]);
  const layer = (handle: string, name: string, colour: number, l?: DrawingLayer) =>
    record('LAYER', handle, H.layer, 'AcDbLayerTableRecord', [
      [2, name],
      [70, 0],
      [62, l?.off ? -colour : colour],
      [6, dashes.nameOf(l?.dash) ?? 'Continuous'],
      [370, weightCode(l?.weight)],
    ]);
  const distinct = new Map(drawing.layers.map((l) => [names.get(l.name)!, l]));
  const layers = [
    layer(H.layerZero, '0', 7),
    ...[...distinct]
      .filter(([name]) => name !== '0')
      .map(([name, l]) => layer(handles.take(), name, l.index, l)),
  ];
  return [
    ...table('VPORT', H.vport, [
      record('VPORT', H.activePort, H.vport, 'AcDbViewportTableRecord', [
        [2, '*Active'],
        [70, 0],
        [10, '0.0'],
        [20, '0.0'],
        [11, '1.0'],
        [21, '1.0'],
        [12, '0.0'],
        [22, '0.0'],
        [13, '0.0'],
        [23, '0.0'],
        [14, '10.0'],
        [24, '10.0'],
        [15, '10.0'],
        [25, '10.0'],
        [16, '0.0'],
        [26, '0.0'],
        [36, '1.0'],
        [17, '0.0'],
        [27, '0.0'],
        [37, '0.0'],
        [40, '10000.0'],
        [41, '1.5'],
        [42, '50.0'],
        [43, '0.0'],
        [44, '0.0'],
        [50, '0.0'],
        [51, '0.0'],
        [71, 0],
        [72, 1000],
        [73, 1],
        [74, 3],
        [75, 0],
        [76, 0],
        [77, 0],
        [78, 0],
      ]),
    ]),
    ...table('LTYPE', H.ltype, [
      linetype(H.byBlock, 'ByBlock', ''),
      linetype(H.byLayer, 'ByLayer', ''),
      linetype(H.continuous, 'Continuous', 'Solid line'),
      ...[...dashes.names.values()].map(dashed),
    ]),
    ...table('LAYER', H.layer, layers),
    ...table('STYLE', H.style, [
      record('STYLE', H.standardStyle, H.style, 'AcDbTextStyleTableRecord', [
        [2, 'Standard'],
        [70, 0],
        [40, '0.0'],
        [41, '1.0'],
        [50, '0.0'],
        [71, 0],
        [42, '2.5'],
        [3, 'txt'],
        [4, ''],
      ]),
    ]),
    ...table('VIEW', H.view, []),
    ...table('UCS', H.ucs, []),
    ...table('APPID', H.appid, [
      record('APPID', H.appidAcad, H.appid, 'AcDbRegAppTableRecord', [
        [2, 'ACAD'],
        [70, 0],
      ]),
      record('APPID', handles.take(), H.appid, 'AcDbRegAppTableRecord', [
        [2, OWN_DATA],
        [70, 0],
      ]),
    ]),
    [0, 'TABLE'],
    [2, 'DIMSTYLE'],
    [5, H.dimstyle],
    [330, '0'],
    [100, 'AcDbSymbolTable'],
    [70, 1],
    [100, 'AcDbDimStyleTable'],
    ...record('DIMSTYLE', H.standardDim, H.dimstyle, 'AcDbDimStyleTableRecord', [
      [2, 'Standard'],
      [70, 0],
    ]),
    [0, 'ENDTAB'],
    ...table('BLOCK_RECORD', H.blockRecord, [
      record('BLOCK_RECORD', H.modelRecord, H.blockRecord, 'AcDbBlockTableRecord', [[2, '*Model_Space']]),
      record('BLOCK_RECORD', H.paperRecord, H.blockRecord, 'AcDbBlockTableRecord', [[2, '*Paper_Space']]),
      ...blocks.map((b) =>
        record('BLOCK_RECORD', b.record, H.blockRecord, 'AcDbBlockTableRecord', [[2, b.name]]),
      ),
    ]),
  ];
}

function shapePairs(
  shape: Shape,
  layer: string,
  k: number,
  handles: Handles,
  dashes: LineTypes,
  owner: string,
): Pair[] {
  const lineType = 'dash' in shape ? dashes.nameOf(shape.dash) : null;
  const head = (type: string, subclass: string): Pair[] => [
    [0, type],
    [5, handles.take()],
    [330, owner],
    [100, 'AcDbEntity'],
    [8, layer],
    ...(lineType === null ? [] : [[6, lineType] as Pair]),
    [100, subclass],
  ];
  const degrees = (radians: number) => num(((((radians * 180) / Math.PI) % 360) + 360) % 360);
  const polyline = (
    points: readonly (readonly [number, number])[],
    closed: boolean,
    bulges: readonly number[] = [],
  ): Pair[] => [
    ...head('LWPOLYLINE', 'AcDbPolyline'),
    [90, points.length],
    [70, closed ? 1 : 0],
    [43, '0.0'],
    ...points.flatMap(([x, y], i): Pair[] => [
      [10, num(x * k)],
      [20, num(y * k)],
      ...(bulges[i] ? [[42, num(bulges[i])] as Pair] : []),
    ]),
  ];
  switch (shape.kind) {
    case 'line':
      return [
        ...head('LINE', 'AcDbLine'),
        [10, num(shape.from[0] * k)],
        [20, num(shape.from[1] * k)],
        [30, '0.0'],
        [11, num(shape.to[0] * k)],
        [21, num(shape.to[1] * k)],
        [31, '0.0'],
      ];
    case 'polyline':
      return polyline(shape.points, shape.closed, shape.bulges);
    case 'region':
      return shape.rings.flatMap((ring) => polyline(ring, true));
    case 'circle':
      return [
        ...head('CIRCLE', 'AcDbCircle'),
        [10, num(shape.cx * k)],
        [20, num(shape.cy * k)],
        [30, '0.0'],
        [40, num(shape.r * k)],
      ];
    case 'arc':
      return [
        ...head('ARC', 'AcDbCircle'),
        [10, num(shape.cx * k)],
        [20, num(shape.cy * k)],
        [30, '0.0'],
        [40, num(shape.r * k)],
        [100, 'AcDbArc'],
        [50, degrees(shape.start)],
        [51, degrees(shape.end)],
      ];
    case 'cubic':
      return [
        ...head('SPLINE', 'AcDbSpline'),
        [210, '0.0'],
        [220, '0.0'],
        [230, '1.0'],
        [70, 8],
        [71, 3],
        [72, 8],
        [73, 4],
        [74, 0],
        [42, '0.0000001'],
        [43, '0.0000001'],
        ...[0, 0, 0, 0, 1, 1, 1, 1].map((t): Pair => [40, num(t)]),
        ...shape.points.flatMap(([x, y]): Pair[] => [
          [10, num(x * k)],
          [20, num(y * k)],
          [30, '0.0'],
        ]),
      ];
    case 'text':
      return [
        ...head('TEXT', 'AcDbText'),
        [10, num(shape.x * k)],
        [20, num(shape.y * k)],
        [30, '0.0'],
        [40, num(shape.height * k)],
        [1, encodeText(shape.text)],
        [50, degrees(shape.radians)],
        [7, 'Standard'],
        [100, 'AcDbText'],
      ];
  }
}
