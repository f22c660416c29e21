import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { wallSchedule } from '@calque/core/building';
import {
  drawingOfModel,
  viewsOfModel,
  writeDxf,
  writeGlb,
  writeIfc,
  frameDrawings,
  plateDrawings,
  shopViews,
  writeNc,
  writeStep,
  writeSvg,
  writeWallsCsv,
  writeXlsx,
  type DxfUnits,
  type IfcView,
} from '@calque/core/exchange';
import { ofType, settingsOf, storeysOf, type Model } from '@calque/core/model';
import { PaperError, writePdf } from '@calque/core/paper';
import { PAPER_NAMES, type PaperName } from '@calque/core/papers';
import { tablesOf, takeoff } from '@calque/core/takeoff';
import { parseScale } from '@calque/core/units';
import { readPackagedModel } from '@calque/store/package';
import type { DELIVERED } from './delivered.ts';
import { deliverReady } from './deliver-ready.ts';
import { PART_FORMATS, type PartFormat } from './part-formats.ts';
import { UsageError } from './usage-error.ts';

export interface DeliverFlags {
  to: (typeof DELIVERED)[number];
  storey?: string;
  scale: string;
  units: DxfUnits;
  view: IfcView;
  paper?: string;
  drawing?: string;
  part?: string;
  out: string;
}

/** Writes what has been traced in a package in an open format; says what was written. */
export async function deliverCommand(file: string, flags: DeliverFlags): Promise<string> {
  const model = await readPackagedModel(file);
  if (flags.drawing !== undefined) return deliverReady(file, model, flags.drawing, flags);
  const file3d = partFormat(model, flags);
  if (file3d) {
    writeFileSync(
      flags.out,
      await (await import('./deliver-part.ts')).writtenPart(model, file3d, { ...flags, file }),
    );
    return `${file3d.toUpperCase()} of a part, written to ${flags.out}`;
  }
  if (flags.to === 'nc' || flags.to === 'plates' || flags.to === 'frames') return deliverPieces(model, flags);
  const planeId = storeyOf(model, flags.storey);
  writeFileSync(flags.out, await WRITERS[flags.to as keyof typeof WRITERS](model, planeId, flags));
  return `${flags.to.toUpperCase()} of ${flags.storey ?? 'all storeys'}, written to ${flags.out}`;
}

/** Formats of a part, where one is asked for: by its name, or by a format that nothing else has; STEP where there is no frame. */
function partFormat(model: Model, { to, part }: DeliverFlags): PartFormat | null {
  const format = PART_FORMATS.find((f) => f === to);
  if (!format) {
    if (part !== undefined)
      throw new UsageError(`A part is delivered as ${PART_FORMATS.join(', ')}, not as ${to}.`);
    return null;
  }
  const isAsked =
    part !== undefined ||
    format === 'stl' ||
    format === '3mf' ||
    (format === 'step' && ofType(model, 'part').length > 0 && ofType(model, 'member').length === 0);
  return isAsked ? format : null;
}

/** A file for each piece of steel or plate, in a folder that is made where there is none. */
function deliverPieces(model: Model, { to, units, out: folder }: DeliverFlags): string {
  const drawings = to === 'frames' ? frameDrawings(model) : plateDrawings(model),
    files =
      to === 'nc'
        ? writeNc(model)
        : drawings.map(({ name, drawing }) => ({ name: `${name}.dxf`, text: writeDxf(drawing, units) }));
  if (files.length === 0) throw new UsageError(NONE[to as keyof typeof NONE]);
  if (existsSync(folder) && !statSync(folder).isDirectory())
    throw new UsageError(`${folder} is a file: give a folder, in which a file is written for each mark.`);
  mkdirSync(folder, { recursive: true });
  for (const { name, text } of files) writeFileSync(join(folder, name), text);
  return `${files.length} ${to === 'nc' ? 'NC' : 'DXF'} ${files.length === 1 ? 'file' : 'files'}, written to ${folder}`;
}

const NONE = {
  nc: 'There is no member of steel in this package.',
  plates: 'There is no plate in this package: plates are drawn, or come with the ends of members.',
  frames: 'There is no frame on an upright plane in this package.',
} as const;

type Written = string | Uint8Array;
type Writer = (model: Model, planeId: string | undefined, flags: DeliverFlags) => Written | Promise<Written>;

const WRITERS: Readonly<
  Record<Exclude<DeliverFlags['to'], 'nc' | 'plates' | 'frames' | 'stl' | '3mf'>, Writer>
> = {
  ifc: (model, storeyId, { view }) =>
    writeIfc(model, { view, at: new Date().toISOString().slice(0, 19), ...(storeyId && { storeyId }) }),
  glb: (model, storeyId) => {
    const bytes = writeGlb(model, storeyId);
    if (!bytes)
      throw new UsageError('There is no solid in this package: no walls, slabs, roofs, columns, stairs.');
    return bytes;
  },
  step: (model) => {
    const text = writeStep(model, { at: new Date().toISOString().slice(0, 19) });
    if (!text)
      throw new UsageError('There is no member with a section in this package: a STEP file holds frames.');
    return text;
  },
  shop: async (model) => {
    const views = shopViews(model);
    if (views.length === 0)
      throw new UsageError('There is no member or plate in this package to draw for a shop.');
    const { bytes } = await writePdf(views, {
      scale: 10,
      paper: 'A3',
      title: { project: settingsOf(model).name, date: new Date().toISOString().slice(0, 10) },
    });
    return bytes;
  },
  xlsx: async (model, storeyId) => {
    const name = storeysOf(model).find((s) => s.id === storeyId)?.name,
      tables = tablesOf(model).map((t) => ({
        ...t,
        rows: t.rows.filter((r) => name === undefined || r.storey === name),
      })),
      bytes = await writeXlsx(tables, settingsOf(model).units);
    if (!bytes) throw new UsageError('There is nothing to count in this package.');
    return bytes;
  },
  dxf: (model, planeId, { units }) => writeDxf(drawingOfModel(model, planeId), units),
  svg: (model, planeId, { scale }) =>
    writeSvg(drawingOfModel(model, planeId), { scale: scaleOf(scale), title: settingsOf(model).name }),
  pdf: async (model, planeId, { scale, paper }) => {
    try {
      const { bytes } = await writePdf(viewsOfModel(model, planeId), {
        scale: scaleOf(scale),
        paper: paper === undefined ? null : paperOf(paper),
        title: {
          project: settingsOf(model).name,
          date: new Date().toISOString().slice(0, 10),
        },
      });
      return bytes;
    } catch (error) {
      if (error instanceof PaperError) throw new UsageError(error.message);
      throw error;
    }
  },
  csv: (model, planeId) =>
    writeWallsCsv(
      wallSchedule(model).filter((r) => planeId === undefined || r.wall.planeId === planeId),
      settingsOf(model).units,
    ),
  json: (model, planeId) => {
    const counted = takeoff(model),
      name = storeysOf(model).find((s) => s.id === planeId)?.name,
      here = <R extends { storey: string }>(rows: R[]) =>
        rows.filter((r) => name === undefined || r.storey === name);
    return JSON.stringify(
      {
        units: 'mm',
        ...counted,
        spaces: here(counted.spaces),
        walls: here(counted.walls),
        layers: here(counted.layers),
        openings: here(counted.openings),
        slabs: here(counted.slabs),
        roofs: here(counted.roofs),
        columns: here(counted.columns),
        stairs: here(counted.stairs),
      },
      null,
      1,
    );
  },
};

function paperOf(text: string): PaperName {
  const found = PAPER_NAMES.find((n) => n.toLowerCase() === text.toLowerCase());
  if (!found) throw new UsageError(`"${text}" is no paper: ${PAPER_NAMES.join(', ')}.`);
  return found;
}

function scaleOf(text: string): number {
  const parsed = parseScale(text);
  if (!parsed.ok) throw new UsageError(`"${text}" is not a scale: write it as 1:50 or 1/4" = 1'-0".`);
  return parsed.factor;
}

function storeyOf(model: Model, name: string | undefined): string | undefined {
  if (name === undefined) return undefined;
  const storeys = storeysOf(model),
    found = storeys.find((s) => s.name === name);
  if (!found)
    throw new UsageError(
      `There is no storey "${name}" in this package: it has ${storeys.map((s) => `"${s.name}"`).join(', ')}.`,
    );
  return found.id;
}
