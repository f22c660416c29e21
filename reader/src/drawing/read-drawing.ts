import { DxfError, lineworkOfScene, readDxf, readSvg, SvgError, type Scene } from '@calque/core/exchange';
import type { Linework } from '@calque/core/linework';
import { ReadFailure } from '../failure.ts';

/** A DXF or SVG as one sheet at true size. `millimetresPerUnit`: what the person said, where the file is silent. */
export function readDrawing(
  bytes: Uint8Array,
  kind: 'dxf' | 'svg',
  millimetresPerUnit?: number,
): { linework: Linework; unknown: Record<string, number> } {
  const scene = sceneOf(bytes, kind);
  const units = scene.millimetresPerUnit ?? millimetresPerUnit;
  if (units === undefined)
    throw new ReadFailure(
      'units',
      'This drawing does not say in which units it is drawn. Choose them, and it is read at true size.',
    );
  if (scene.items.length === 0 && !scene.sheets?.length)
    throw new ReadFailure(
      'empty',
      `This drawing holds nothing that can be shown${Object.keys(scene.unknown).length ? ` (not understood: ${unknownWords(scene.unknown)})` : ''}.`,
    );
  return { linework: lineworkOfScene(scene, units), unknown: scene.unknown };
}

export const unknownWords = (unknown: Record<string, number>): string =>
  Object.entries(unknown)
    .sort((a, b) => b[1] - a[1])
    .map(([name, n]) => `${n} ${name}`)
    .join(', ');

function sceneOf(bytes: Uint8Array, kind: 'dxf' | 'svg'): Scene {
  try {
    return kind === 'dxf' ? readDxf(decode(bytes)) : readSvg(decode(bytes));
  } catch (error) {
    if ((error instanceof SvgError || error instanceof DxfError) && error.tooLarge)
      throw new ReadFailure('too-large', `This drawing holds ${error.message}. Export a part of it.`);
    if (error instanceof SvgError)
      throw new ReadFailure(
        'damaged',
        `This SVG cannot be read (${error.message.slice(0, 160)}). Export it again.`,
      );
    if (error instanceof DxfError)
      throw new ReadFailure(
        'damaged',
        'This DXF holds no sections that can be read. Save it again as DXF, ASCII.',
      );
    throw error;
  }
}

/** UTF-8 where it is that, otherwise Windows' Western code page, as older DXF files have it. */
function decode(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
