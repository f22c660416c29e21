import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { drawingOfModel, writeDxf, writeSvg } from '@calque/core/exchange';
import { groundStorey, kindOf, modelOf, type Mark, type SymbolMark } from '@calque/core/model';

const mark = (kind: Mark, more: Partial<SymbolMark> = {}): SymbolMark => ({
  type: 'symbol',
  id: kind,
  planeId: 'ground',
  source: { underlayId: null, ends: 'free', thickness: 'typed' },
  mark: kind,
  at: [1000, 2000],
  angle: 0,
  size: 400,
  text: kind === 'level' ? '+2,700' : 'A',
  ...more,
});
const model = modelOf([
  groundStorey('ground'),
  mark('north', { angle: Math.PI / 2 }),
  mark('level'),
  mark('section'),
]);

describe('symbol marks', () => {
  it('stand on their point and point where they are told to', () => {
    const [, tip] = kindOf(mark('section')).grips(mark('section'));
    expect(tip).toEqual([1400, 2000]);
    const level = kindOf(mark('level')).pieces(mark('level'));
    // The triangle stands on the level with its point; everything else lies above it.
    expect(level[0]).toMatchObject({ kind: 'segment', from: [1000, 2000] });
    expect(kindOf(mark('level')).box(mark('level'))[1]).toBe(2000);
  });

  it('stay readable in a mirror: a level mark stands upright, an arrow points where the mirror shows it', () => {
    const flip = [-1, 0, 0, 1, 0, 0] as const,
      moved = (e: SymbolMark) => kindOf(e).moved(e, [...flip]);
    expect(moved(mark('level')).at).toEqual([-1000, 2000]);
    expect(moved(mark('level')).angle).toBeCloseTo(0, 12);
    expect(Math.abs(moved(mark('section')).angle)).toBeCloseTo(Math.PI, 12);
  });

  it('are turned and sized by their second grip, and are nothing without a size', () => {
    const turned = kindOf(mark('level')).withGrip(mark('level'), 1, [1000, 3000])!;
    expect(turned).toMatchObject({ angle: 0, size: 1000 });
    expect(kindOf(mark('north')).withGrip(mark('north'), 1, [1000, 2000])).toBeNull();
  });

  it('come out in DXF as an independent reader finds them: lines, rings and letters on a layer of their own', () => {
    const file = join(mkdtempSync(join(tmpdir(), 'calque-symbols-')), 'x.dxf');
    writeFileSync(file, writeDxf(drawingOfModel(model, 'ground'), 'mm'));
    const found = JSON.parse(
      execFileSync('/usr/bin/python3', [
        '-c',
        `import ezdxf, json, sys
doc = ezdxf.readfile(sys.argv[1])
m = doc.modelspace()
print(json.dumps({'errors': len(doc.audit().errors), 'layers': sorted({e.dxf.layer for e in m}),
 'circles': [[*e.dxf.center][:2] + [e.dxf.radius] for e in m.query('CIRCLE')], 'lines': len(m.query('LINE')),
 'texts': sorted(e.dxf.text for e in m.query('TEXT'))}))`,
        file,
      ]).toString(),
    ) as Record<string, unknown>;
    expect(found).toEqual({
      errors: 0,
      layers: ['Symbols'],
      circles: [
        [1000, 2000, 200],
        [1000, 2000, 200],
      ],
      lines: 4 + 4 + 3,
      texts: ['+2,700', 'A', 'A'],
    });
  });

  it('come out in SVG', () => {
    const svg = writeSvg(drawingOfModel(model, 'ground'), { scale: 50, title: 'Marks' });
    expect(svg).toContain('Symbols');
    expect(svg).toContain('+2,700');
    expect(svg.match(/<circle/g)?.length).toBe(2);
  });
});
