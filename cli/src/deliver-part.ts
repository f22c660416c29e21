import { writeDxf, writePartGlb, writeStl, writeThreeMf, type DxfUnits } from '@calque/core/exchange';
import { faceOutline, partReport, skinOf, stepOf } from '@calque/core/forming';
import { shapeOfPiece, type Model } from '@calque/core/model';
import { stockMaterial } from '@calque/core/part';
import { partOf } from './part-command.ts';
import type { PartFormat } from './part-formats.ts';
import { loadKernel } from './solid-kernel.ts';
import { UsageError } from './usage-error.ts';

/** How finely its skin is broken into triangles, millimetres and radians. */
const FINE = { off: 0.02, angle: 0.2 };
const GREY = 0x9aa2a8;
const OUTLINE = { name: 'Outline', colour: 0x17273a, index: 7 };

/** A part of a package as a file: its solid, or as DXF the outline of its largest flat face at true size. */
export async function writtenPart(
  model: Model,
  to: PartFormat,
  { part: name, units }: { part?: string; units: DxfUnits },
): Promise<string | Uint8Array> {
  const part = partOf(model, name);
  await loadKernel();
  const { body } = partReport(model, part);
  if (!body) throw new UsageError(`${part.name} has no solid: none of its features could be made.`);
  const words = { ...part, colour: part.colour ?? stockMaterial(part.material)?.colour ?? GREY };
  switch (to) {
    case 'step':
      return stepOf(body, { ...words, at: new Date().toISOString() });
    case 'stl':
      return writeStl(skinOf(body, FINE), part.name);
    case '3mf':
      return writeThreeMf(skinOf(body, FINE), words);
    case 'glb':
      return writePartGlb(skinOf(body, FINE), words);
    case 'dxf': {
      const outline = faceOutline(body);
      if (!outline) throw new UsageError(`${part.name} has no flat face to draw.`);
      return writeDxf(
        { layers: [OUTLINE], shapes: outline.pieces.map((p) => shapeOfPiece(p, OUTLINE.name)) },
        units,
      );
    }
  }
}
