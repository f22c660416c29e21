import {
  partPage,
  writeDxf,
  writeHolesCsv,
  writePartGlb,
  writeStl,
  writeSvg,
  writeThreeMf,
  type DxfUnits,
} from '@calque/core/exchange';
import { faceOutline, partReport, shownSolid, skinOf, stepOf, viewOn } from '@calque/core/forming';
import { settingsOf, shapeOfPiece, type Model } from '@calque/core/model';
import { writePdf } from '@calque/core/paper';
import { drawnPlanes, stockMaterial, threadedHoles } from '@calque/core/part';
import { partOf } from './part-command.ts';
import { givenFiles } from './part-sheets.ts';
import type { PartFormat } from './part-formats.ts';
import { loadKernel } from './solid-kernel.ts';
import { UsageError } from './usage-error.ts';

/** How finely its skin is broken into triangles, millimetres and radians. */
const FINE = { off: 0.02, angle: 0.2 };
const GREY = 0x9aa2a8;
const OUTLINE = { name: 'Outline', colour: 0x17273a, index: 7 };

/** A part of a package as a file. */
export async function writtenPart(
  model: Model,
  to: PartFormat,
  { file, part: name, units }: { file: string; part?: string; units: DxfUnits },
): Promise<string | Uint8Array> {
  const part = partOf(model, name);
  await loadKernel();
  const { body } = partReport(model, part, [], await givenFiles(file, model, part));
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
    case 'csv':
      return writeHolesCsv(threadedHoles(shownSolid(model, part, body)), settingsOf(model).units);
    case 'svg':
    case 'pdf': {
      const solid = shownSolid(model, part, body),
        page = partPage(model, part, {
          seen: drawnPlanes(model, part).map((plane) => ({ plane, view: viewOn(body, plane) })),
          holes: threadedHoles(solid),
          mass: (solid.measures.volume * part.density) / 1e9,
        });
      if (to === 'svg') return writeSvg(page.drawing, { scale: page.scale!, title: part.name });
      const { bytes } = await writePdf([page], {
        scale: page.scale!,
        paper: null,
        title: { project: settingsOf(model).name, date: new Date().toISOString().slice(0, 10) },
      });
      return bytes;
    }
  }
}
