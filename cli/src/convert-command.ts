import { writeFileSync } from 'node:fs';
import { MM_PER_POINT, type Box, type Point, type Transform } from '@calque/core/geometry';
import {
  drawingOfLinework,
  LINEWORK_PARTS,
  writeDxf,
  writeSvg,
  type DxfUnits,
  type LineworkPart,
} from '@calque/core/exchange';
import { parseLength, parseScale } from '@calque/core/units';
import { DEFAULT_MEMORY_MB } from '@calque/reader';
import { readLimited } from './read-limited.ts';
import { UsageError } from './usage-error.ts';

export interface ConvertFlags {
  page: number;
  scale?: string;
  known?: string;
  crop?: string;
  only?: string;
  units: DxfUnits;
  to: 'dxf' | 'svg';
  out: string;
  password?: string;
  seconds: number;
  json?: boolean;
}

export async function convertCommand(file: string, flags: ConvertFlags): Promise<string> {
  const factor = scaleFrom(flags);
  const crop = flags.crop === undefined ? undefined : boxFrom(flags.crop);
  const only = new Set(flags.only === undefined ? LINEWORK_PARTS : flags.only.split(',').map(partFrom));
  const { pages } = await readLimited(
    file,
    { page: flags.page, password: flags.password, maxMegabytes: DEFAULT_MEMORY_MB },
    flags.seconds,
  );
  const { linework } = pages[0];
  const s = factor * MM_PER_POINT;
  // The lower left corner of the sheet, or of the crop, becomes the origin.
  const placement: Transform = [s, 0, 0, s, -s * (crop?.[0] ?? 0), -s * (crop?.[1] ?? 0)];
  const drawing = drawingOfLinework(linework, { placement, crop, only });
  const text =
    flags.to === 'dxf'
      ? writeDxf(drawing, flags.units)
      : writeSvg(drawing, {
          scale: factor,
          title: `Page ${flags.page} at 1:${Number(factor.toPrecision(6))}`,
        });
  writeFileSync(flags.out, text);
  const result = {
    out: flags.out,
    shapes: drawing.shapes.length,
    layers: drawing.layers.map((l) => l.name),
    factor,
  };
  return flags.json
    ? JSON.stringify(result)
    : `${result.shapes} shapes on ${result.layers.length} layers at 1:${Number(factor.toPrecision(6))}, written to ${flags.out}`;
}

function scaleFrom({ scale, known }: ConvertFlags): number {
  if ((scale === undefined) === (known === undefined))
    throw new UsageError('Give either --scale 1:100 or --known "x0,y0 x1,y1 5250mm".');
  if (scale !== undefined) {
    const parsed = parseScale(scale);
    if (!parsed.ok)
      throw new UsageError(`"${scale}" is not a scale. Write it as 1:100, 1/4" = 1'-0" or a bare factor.`);
    return parsed.factor;
  }
  const match = /^\s*(\S+)\s+(\S+)\s+(.+)$/.exec(known!);
  const from = match && pointFrom(match[1]),
    to = match && pointFrom(match[2]);
  const length = match ? parseLength(match[3], 'mm') : null;
  if (!from || !to || !length?.ok || length.mm <= 0)
    throw new UsageError(
      `"${known}" is not a known dimension. Write it as "x0,y0 x1,y1 5250mm", points in sheet points.`,
    );
  const points = Math.hypot(to[0] - from[0], to[1] - from[1]);
  if (points === 0) throw new UsageError('The two points of --known are the same.');
  return length.mm / (points * MM_PER_POINT);
}

function numbersFrom(text: string, count: number): number[] | null {
  const values = text.split(',').map((t) => (t.trim() === '' ? NaN : Number(t)));
  return values.length === count && values.every(Number.isFinite) ? values : null;
}

const pointFrom = (text: string) => numbersFrom(text, 2) as Point | null;

function boxFrom(text: string): Box {
  const v = numbersFrom(text, 4);
  if (!v || v[0] === v[2] || v[1] === v[3])
    throw new UsageError(`"${text}" is not a crop. Write it as x0,y0,x1,y1 in sheet points.`);
  return [Math.min(v[0], v[2]), Math.min(v[1], v[3]), Math.max(v[0], v[2]), Math.max(v[1], v[3])];
}

function partFrom(text: string): LineworkPart {
  const part = LINEWORK_PARTS.find((p) => p === text.trim());
  if (!part) throw new UsageError(`"${text}" is none of ${LINEWORK_PARTS.join(', ')}.`);
  return part;
}
