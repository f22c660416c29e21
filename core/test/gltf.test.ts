import { NodeIO } from '@gltf-transform/core';
import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { writeGlb } from '@calque/core/exchange';
import { volumeOfAll } from '@calque/core/geometry';
import { groundStorey, modelOf } from '@calque/core/model';
import { bodiesOf } from '@calque/core/solids';
import { houseModel } from './given-house.ts';
import { wall } from './given-walls.ts';

describe('a building as binary glTF', () => {
  it('has no error for the validator, and nothing to warn of', async () => {
    const { issues } = await validateBytes(writeGlb(houseModel())!, { maxIssues: 50 });
    expect(issues.messages).toEqual([]);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
  });
  it('read by another reader has storeys, elements by their ids, and their volumes in cubic metres', async () => {
    const model = houseModel(),
      document = await new NodeIO().readBinary(writeGlb(model)!),
      root = document.getRoot().listScenes()[0].listChildren()[0];
    expect(root.listChildren().map((s) => s.getName())).toEqual(['Ground floor', 'Loft']);
    const volumes = new Map(
      root
        .listChildren()
        .flatMap((s) => s.listChildren())
        .map((node) => {
          const points = node.getMesh()!.listPrimitives()[0].getAttribute('POSITION')!,
            at = (i: number) => points.getElement(i, [0, 0, 0]);
          let six = 0;
          for (let i = 0; i < points.getCount(); i += 3) {
            const [a, b, c] = [at(i), at(i + 1), at(i + 2)];
            six +=
              a[0] * (b[1] * c[2] - b[2] * c[1]) +
              a[1] * (b[2] * c[0] - b[0] * c[2]) +
              a[2] * (b[0] * c[1] - b[1] * c[0]);
          }
          // The root makes millimetres metres.
          return [(node.getExtras() as { id: string }).id, six / 6 / 1e9] as const;
        }),
    );
    for (const { element, blocks } of bodiesOf(model))
      expect(volumes.get(element.id)! / (volumeOfAll(blocks) / 1e9), element.id).toBeCloseTo(1, 4);
  });
  it('stands upright, to scale, and where it stands: a wall far from the zero of the model', async () => {
    const far = wall('far', [5e6, 2e6], [5e6 + 4000, 2e6]),
      document = await new NodeIO().readBinary(writeGlb(modelOf([groundStorey('ground'), far]))!),
      node = document
        .getRoot()
        .listNodes()
        .find((n) => n.getMesh())!,
      points = node.getMesh()!.listPrimitives()[0].getAttribute('POSITION')!,
      world = node.getWorldMatrix();
    const places = Array.from({ length: points.getCount() }, (_, i) => {
      const [x, y, z] = points.getElement(i, [0, 0, 0]);
      return [0, 1, 2].map((r) => world[r] * x + world[4 + r] * y + world[8 + r] * z + world[12 + r]);
    });
    const range = (axis: number) => [
      Math.min(...places.map((p) => p[axis])),
      Math.max(...places.map((p) => p[axis])),
    ];
    const near = (found: number[], want: number[]) =>
      found.forEach((v, i) => expect(Math.abs(v - want[i])).toBeLessThan(1e-4));
    near(range(0), [5000, 5004]);
    near(range(1), [0, 2.7]);
    near(range(2), [-2000.1, -1999.9]);
  });
  it('without solids there is none', () => {
    expect(writeGlb(modelOf([groundStorey('ground')]))).toBeNull();
  });
});
