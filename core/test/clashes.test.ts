import fc from 'fast-check';
import Manifold from 'manifold-3d';
import { beforeAll, describe, expect, it } from 'vitest';
import { frameDoubts } from '@calque/core/framing';
import type { Member } from '@calque/core/model';
import { frameMembers, framePlanes } from '../../demo/src/frames.ts';
import { meshOfMember } from '@calque/core/solids';
import { member } from './given-members.ts';
import { beam, column, joint, model, table } from './given-joints.ts';

const clashes = (...members: Member[]) => frameDoubts(model(...members)).clashes;

describe('members that run into one another', () => {
  it('are told until they are joined; what only touches, or passes between flanges, is not', () => {
    expect(clashes(column(), beam())).toEqual([['column', 'beam']]);
    expect(clashes(column(), beam({ joints: [joint('end', 'face', 'column')] }))).toEqual([]);
    // Cut back to the flange by hand it touches it.
    expect(clashes(column(), beam({ back: [0, 100] }))).toEqual([]);
    expect(clashes(column(), beam({ back: [0, 97] }))).toEqual([['column', 'beam']]);
    // Between the flanges of a column that shows its web, short of it.
    expect(clashes(column({ turn: Math.PI / 2 }), beam({ back: [0, 6] }))).toEqual([]);
    expect(clashes(column({ turn: Math.PI / 2 }), beam({ section: table('IPE 400'), back: [0, 6] }))).toEqual(
      [['column', 'beam']],
    );
    // Over one another without touching, and doubled ones, which are told as such.
    expect(clashes(beam(), beam({ id: 'over', rise: [2200, 2200] }))).toEqual([]);
    const twice = frameDoubts(model(beam(), beam({ id: 'twice' })));
    expect([twice.doubled.length, twice.clashes.length]).toEqual([1, 0]);
  });

  it('none in the frame of the demo', () => {
    expect(frameDoubts(model(...framePlanes(), ...frameMembers()))).toMatchObject({
      clashes: [],
      joints: [],
      nearly: [],
      unknown: [],
      doubled: [],
    });
  });
});

describe('held against an independent library of solids', () => {
  let solids: Awaited<ReturnType<typeof Manifold>>;
  beforeAll(async () => {
    solids = await Manifold();
    solids.setup();
  });
  /** Volume that two share, cubic millimetres. */
  const shared = (m: ReturnType<typeof model>, a: string, b: string): number => {
    const [p, q] = [a, b].map((id) => {
      const { triangles } = meshOfMember(m, id),
        mesh = new solids.Mesh({
          numProp: 3,
          vertProperties: Float32Array.from(triangles),
          triVerts: Uint32Array.from(
            triangles.length / 3 > 0 ? Array.from({ length: triangles.length / 3 }, (_, i) => i) : [],
          ),
        });
      mesh.merge();
      return new solids.Manifold(mesh);
    });
    return p.intersect(q).volume();
  };
  it('random pairs: what shares much is told, what shares nothing is not', () => {
    const at = fc.double({ min: -600, max: 600, noNaN: true });
    fc.assert(
      fc.property(
        fc.tuple(at, at, at),
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.constantFrom('IPE 200', 'UPE 200', 'L 80x80x8'),
        fc.constantFrom('HEB 200', 'IPE 300'),
        ([x, y, z], angle, one, other) => {
          const a = member({ id: 'a', from: [-1000, 0], to: [1000, 0], section: table(one) }),
            b = member({
              id: 'b',
              from: [x - 800 * Math.cos(angle), y - 800 * Math.sin(angle)],
              to: [x + 800 * Math.cos(angle), y + 800 * Math.sin(angle)],
              rise: [z - 200, z + 200],
              section: table(other),
            }),
            volume = shared(model(a, b), 'a', 'b'),
            told = clashes(a, b).length > 0;
          if (volume > 20000) expect(told, `${volume}`).toBe(true);
          if (volume === 0) expect(told).toBe(false);
        },
      ),
      { numRuns: 200 },
    );
  });
});
