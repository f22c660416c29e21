import { getAllAttributesForEntity, getInheritanceChainForEntity } from '@ifc-lite/parser';
import { beforeAll, describe, expect, it } from 'vitest';
import * as WebIfc from 'web-ifc';
import { writeIfc, writeOpeningsCsv, type IfcView } from '@calque/core/exchange';
import { bodiesOf } from '@calque/core/solids';
import { volumeOfAll } from '@calque/core/geometry';
import { openingSchedule, takeoff } from '@calque/core/takeoff';
import { linesOfOpenings } from '@calque/core/building';
import { globalId } from '../src/exchange/ifc/guid.ts';
import { stepReal, stepString } from '../src/exchange/step/step-text.ts';
import { get, groundStorey, modelOf, usualOpening, type Entity, type WallOpening } from '@calque/core/model';
import { base } from './given-elements.ts';
import { ifcBodies } from './ifc-bodies.ts';
import { instances, names, wrongIn, type Read } from './ifc-schema.ts';
import { houseModel } from './given-house.ts';
import { wall } from './given-walls.ts';

const model = houseModel();
const written = (view: IfcView) =>
  writeIfc(model, { view, at: '2026-11-29T12:00:00', projectKey: 'a1', storeyId: undefined });

describe.each(['editable', 'reference'] as const)('a model that is %s', (view) => {
  const text = written(view),
    all = instances(text);
  it('has no entity that the schema does not know, each with its attributes, all that is referred to there', () => {
    expect(wrongIn(all)).toEqual([]);
    for (const found of text.matchAll(/#(\d+)/g)) expect(all.has(found[0])).toBe(true);
  });
  it('says where it lies on the map, and only where somebody has said so', () => {
    const [conversion] = [...all.values()].filter(({ type }) => type === 'IFCMAPCONVERSION'),
      [context, crs, east, north, height, x, y, scale] = conversion.args as string[];
    expect(all.get(context)!.type).toBe('IFCGEOMETRICREPRESENTATIONCONTEXT');
    expect(all.get(crs)).toMatchObject({ type: 'IFCPROJECTEDCRS' });
    expect(all.get(crs)!.args[0]).toBe("'EPSG:25832'");
    // Ten metres along the model's x: 30 degrees from the map's east.
    const [e, n] = [
      Number(east) + 10000 * Number(x) * Number(scale),
      Number(north) + 10000 * Number(y) * Number(scale),
    ];
    expect(e).toBeCloseTo(456789.125 + 10 * Math.cos(Math.PI / 6), 6);
    expect(n).toBeCloseTo(5432100.5 + 5, 6);
    expect(Number(height)).toBe(93.4);
    const nowhere = writeIfc(
      modelOf([...model.values()].map((f) => (f.type === 'settings' ? { ...f, onMap: null } : f))),
      {
        view,
        at: '2026-11-29T12:00:00',
      },
    );
    expect(nowhere).not.toContain('IFCMAPCONVERSION');
  });
  it('has ids of its own for everything, the same ones when it is written again', () => {
    const ids = [...all.values()].flatMap(({ args }) =>
      typeof args[0] === 'string' && /^'[0-9A-Za-z_$]{22}'$/.test(args[0]) ? [args[0]] : [],
    );
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids.length).toBeGreaterThan(100);
    expect(written(view)).toBe(text);
    const rooted = [...all.values()].filter(({ type }) =>
      getInheritanceChainForEntity(names.get(type)!).includes('IfcRoot'),
    );
    expect(ids).toHaveLength(rooted.length);
  });
});

describe('read back by another reader', () => {
  const api = new WebIfc.IfcAPI();
  let counted: ReturnType<typeof takeoff>;
  beforeAll(async () => {
    await api.Init();
    counted = takeoff(model);
  });
  /** Volumes of all products by their GlobalId, cubic metres. */
  const volumesOf = (id: number) =>
    new Map([...ifcBodies(api, id)].map(([key, { volume }]) => [key, volume / 1e9]));
  const open = (view: IfcView) => api.OpenModel(new TextEncoder().encode(written(view)));
  const count = (id: number, type: number) => api.GetLineIDsWithType(id, type).size();

  it.each(['editable', 'reference'] as const)(
    '%s: storeys, counts and volumes are those of the takeoff',
    (view) => {
      const id = open(view),
        volumes = volumesOf(id),
        key = (name: string) => globalId(`a1/${name}`);
      expect(count(id, WebIfc.IFCBUILDINGSTOREY)).toBe(2);
      expect(count(id, WebIfc.IFCWALL)).toBe(counted.walls.length);
      expect([count(id, WebIfc.IFCDOOR), count(id, WebIfc.IFCWINDOW)]).toEqual([2, 3]);
      expect([count(id, WebIfc.IFCSLAB), count(id, WebIfc.IFCCOLUMN)]).toEqual([1, 1]);
      expect([count(id, WebIfc.IFCROOF), count(id, WebIfc.IFCSTAIR), count(id, WebIfc.IFCSPACE)]).toEqual([
        1, 1, 2,
      ]);
      expect(count(id, WebIfc.IFCRELVOIDSELEMENT)).toBe(view === 'editable' ? 5 : 0);
      for (const w of counted.walls) expect(volumes.get(key(w.id))! / w.volume, w.id).toBeCloseTo(1, 3);
      for (const { element, blocks } of bodiesOf(model))
        if (element.type !== 'wall')
          expect(volumes.get(key(element.id))! / (volumeOfAll(blocks) / 1e9), element.id).toBeCloseTo(1, 3);
      api.CloseModel(id);
    },
  );
  it.each(['left', 'right'] as const)(
    'a niche at the %s is cut as deep as it goes, and is no door',
    (opens) => {
      const niche = usualOpening('n', 'niche', [1000, 0], [1600, 0]),
        given = modelOf([
          { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
          groundStorey('ground'),
          wall('w', [0, 0], [5000, 0], { thickness: 300, openings: [{ ...niche, opens, depth: 120 }] }),
        ]),
        text = writeIfc(given, {
          view: 'editable',
          at: '2026-11-29T12:00:00',
          projectKey: 'a1',
          storeyId: undefined,
        }),
        id = api.OpenModel(new TextEncoder().encode(text));
      expect(text).toContain('.RECESS.');
      expect(volumesOf(id).get(globalId('a1/w'))).toBeCloseTo(5 * 2.7 * 0.3 - 0.6 * 1.2 * 0.12, 6);
      expect(count(id, WebIfc.IFCDOOR) + count(id, WebIfc.IFCWINDOW)).toBe(0);
      api.CloseModel(id);
    },
  );
  it('the grid is there with its names, the layers of a type in their order, and a usage from the face of the first', () => {
    const all = [...instances(written('editable')).values()],
      named = (type: string) => all.filter((i) => i.type === type).map((i) => i.args[0]);
    expect(named('IFCGRIDAXIS')).toEqual(["'A'", "'B'", "'1'"]);
    const [grid] = all.filter((i) => i.type === 'IFCGRID');
    expect([grid.args[7], grid.args[8], grid.args[9]].map((a) => (a as Read[]).length)).toEqual([2, 1, 1]);
    const boarded = all.find((i) => i.type === 'IFCMATERIALLAYERSET' && i.args[1] === "'Boarded studs'")!;
    expect(boarded.args[0]).toHaveLength(4);
    const usages = all.filter((i) => i.type === 'IFCMATERIALLAYERSETUSAGE').map((i) => i.args.slice(1, 4));
    // Drawn by their right faces, on which the first layer lies: from the line to the left.
    expect(usages).toContainEqual(['.AXIS2.', '.POSITIVE.', '0.']);
  });
  it('figures, property sets and rooms are there with what the takeoff says', async () => {
    const id = open('editable');
    const lines = (type: number) => {
      const found = api.GetLineIDsWithType(id, type);
      return Array.from({ length: found.size() }, (_, i) => found.get(i));
    };
    const setsOf = async (name: string) => {
      const line = lines(WebIfc.IFCWALL).find(
        (n) =>
          (api.GetLine(id, n) as { GlobalId: { value: string } }).GlobalId.value === globalId(`a1/${name}`),
      );
      return (await api.properties.getPropertySets(id, line, true)) as PropertySet[];
    };
    const sets = await setsOf('south'),
      quantities = sets.find((s) => s.Name.value === 'Qto_WallBaseQuantities')!.Quantities!,
      figure = (n: string) => {
        const q = quantities.find((e) => e.Name.value === n)!;
        return (q.LengthValue ?? q.AreaValue ?? q.VolumeValue)!.value;
      },
      row = counted.walls.find((w) => w.id === 'south')!;
    expect([figure('Length'), figure('NetSideArea'), figure('NetVolume')]).toEqual([
      row.length,
      row.net,
      row.volume,
    ]);
    const ours = sets.find((s) => s.Name.value === 'Calque_Source')!.HasProperties!;
    expect(ours.find((p) => p.Name.value === 'Assumed')!.NominalValue.value).toBe('height, head of D1');
    const common = sets.find((s) => s.Name.value === 'Pset_WallCommon')!.HasProperties!;
    expect(common[0].NominalValue.value).toBe(true);
    const spaces = lines(WebIfc.IFCSPACE).map(
      (n) => api.GetLine(id, n) as { Name: { value: string }; LongName: { value: string } },
    );
    expect(spaces.map((s) => [s.Name.value, s.LongName.value])).toContainEqual(['G.01', 'Boat bay · Łódź']);
    api.CloseModel(id);
  });
});

interface Named {
  Name: { value: string };
}
interface PropertySet extends Named {
  Quantities?: (Named & Record<'LengthValue' | 'AreaValue' | 'VolumeValue', { value: number } | undefined>)[];
  HasProperties?: (Named & { NominalValue: { value: unknown } })[];
}

it('where rooms run into one another each is bounded by an element that is not there', () => {
  const at = (id: string, x: number, y: number): Entity => ({
    type: 'space',
    ...base(id),
    at: [x, y],
    name: id,
    number: '',
    letters: 250,
    printed: null,
  });
  const hall: Entity[] = [
    { ...groundStorey('ground'), heightAssumed: false },
    { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
    wall('s', [0, 0], [8000, 0]),
    wall('e', [8000, 0], [8000, 5000]),
    wall('n', [8000, 5000], [0, 5000]),
    wall('w', [0, 5000], [0, 0]),
    { type: 'openBoundary', ...base('b'), from: [3000, 0], to: [3000, 5000] },
    at('Kitchen', 1000, 1000),
    at('Hall', 6000, 1000),
  ];
  const all = [
      ...instances(writeIfc(modelOf(hall), { view: 'editable', at: '2026-11-29T12:00:00' })).values(),
    ],
    absent = all.filter((i) => i.type === 'IFCVIRTUALELEMENT'),
    sides = all.filter((i) => i.type === 'IFCRELSPACEBOUNDARY' && i.args[7] === '.VIRTUAL.');
  expect(absent).toHaveLength(2);
  for (const { args } of absent)
    expect(args).toHaveLength(getAllAttributesForEntity('IfcVirtualElement').length);
  expect(sides.map((i) => i.args[3]).sort()).toEqual(["'Hall'", "'Kitchen'"]);
});

describe('doors', () => {
  it('say by which edge they hang, seen to where they open', () => {
    const doors = [...instances(written('editable')).values()].filter((i) => i.type === 'IFCDOOR');
    expect(doors.map((d) => [d.args[2], d.args[8], d.args[9], d.args[11]])).toEqual([
      ["'D1'", '2100.', '1000.', '.SINGLE_SWING_LEFT.'],
      // Hung at its second edge and opening to the right: seen that way its second edge is at the left.
      ["'D2'", '2100.', '900.', '.SINGLE_SWING_LEFT.'],
    ]);
  });

  it('say their type, what they are made of, and that they fold: to no side that nobody has said; so does the table', () => {
    const folding: WallOpening = {
        ...usualOpening('o1', 'door', [1000, 0], [3400, 0]),
        tag: 'D7',
        leaves: 0,
        folds: true,
        type: 'Glazed, four leaves',
        material: 'Larch',
      },
      model = modelOf([
        { ...groundStorey('ground'), heightAssumed: false },
        { type: 'settings', id: 'settings', name: 'T', units: 'mm', precision: 0 },
        wall('s', [0, 0], [8000, 0], {
          openings: [folding, usualOpening('o2', 'window', [5000, 0], [6000, 0])],
        }),
      ]),
      all = [...instances(writeIfc(model, { view: 'editable', at: '2026-11-29T12:00:00' })).values()],
      door = all.find((i) => i.type === 'IFCDOOR')!,
      style = all.find((i) => i.type === 'IFCDOORTYPE')!;
    expect([door.args[4], door.args[11], door.args[12]]).toEqual([
      "'Glazed, four leaves'",
      '.USERDEFINED.',
      "'folding'",
    ]);
    expect(door.args).toHaveLength(getAllAttributesForEntity('IfcDoor').length);
    expect([style.args.at(-3), style.args.at(-1)]).toEqual(['.USERDEFINED.', "'folding'"]);
    expect(all.some((i) => i.type === 'IFCMATERIAL' && i.args[0] === "'Larch'")).toBe(true);
    const [head, ...rows] = writeOpeningsCsv(openingSchedule(model), 'mm').trim().split(/\r?\n/),
      columns = head.split(',');
    expect(rows).toHaveLength(2);
    expect(rows[0]).toContain('"Glazed, four leaves",Larch');
    expect(columns.indexOf('material')).toBe(columns.indexOf('type') + 1);
    // It is drawn to and fro, from jamb to the middle.
    const [{ lines }] = linesOfOpenings(get(model, 'wall', 's')!);
    expect(lines).toHaveLength(4);
  });
});

describe('the text itself', () => {
  it('reals have a point, texts are plain ASCII with the rest told by its code', () => {
    expect([0, 1, -2.5, 1e-7, 1e21, 123456789.125].map(stepReal)).toEqual([
      '0.',
      '1.',
      '-2.5',
      '1.E-7',
      '1.E+21',
      '123456789.125',
    ]);
    expect(() => stepReal(NaN)).toThrow(/finite/);
    expect(stepString("Rower's \\ Łódź 😀")).toBe(
      "'Rower''s \\\\ \\X2\\014100F3\\X0\\d\\X2\\017A\\X0\\ \\X2\\D83DDE00\\X0\\'",
    );
  });
  it('of one storey holds that one alone', () => {
    const text = writeIfc(model, { view: 'reference', at: '2026-11-29T12:00:00', storeyId: 'loft' });
    const types = [...instances(text).values()].map((i) => i.type);
    expect(types.filter((t) => t === 'IFCBUILDINGSTOREY')).toHaveLength(1);
    expect(types.filter((t) => t === 'IFCWALL')).toHaveLength(2);
  });
});
