import { writeFileSync } from 'node:fs';
import { wallSchedule } from '@calque/core/building';
import { drawingOfModel, writeDxf, writeSvg, writeWallsCsv, type DxfUnits } from '@calque/core/exchange';
import { settingsOf, storeysOf, type Model } from '@calque/core/model';
import { takeoff } from '@calque/core/takeoff';
import { parseScale } from '@calque/core/units';
import { readPackagedModel } from '@calque/store/package';
import { UsageError } from './usage-error.ts';

export const DELIVERED = ['dxf', 'svg', 'csv', 'json'] as const;

export interface DeliverFlags {
  to: (typeof DELIVERED)[number];
  storey?: string;
  scale: string;
  units: DxfUnits;
  out: string;
}

/** Writes what has been traced in a package in an open format; says what was written. */
export async function deliverCommand(file: string, flags: DeliverFlags): Promise<string> {
  const model = await readPackagedModel(file),
    planeId = storeyOf(model, flags.storey);
  writeFileSync(flags.out, WRITERS[flags.to](model, planeId, flags));
  return `${flags.to.toUpperCase()} of ${flags.storey ?? 'all storeys'}, written to ${flags.out}`;
}

type Writer = (model: Model, planeId: string | undefined, flags: DeliverFlags) => string;

const WRITERS: Readonly<Record<DeliverFlags['to'], Writer>> = {
  dxf: (model, planeId, { units }) => writeDxf(drawingOfModel(model, planeId), units),
  svg: (model, planeId, { scale }) => {
    const parsed = parseScale(scale);
    if (!parsed.ok) throw new UsageError(`"${scale}" is not a scale: write it as 1:50 or 1/4" = 1'-0".`);
    return writeSvg(drawingOfModel(model, planeId), { scale: parsed.factor, title: settingsOf(model).name });
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
        openings: here(counted.openings),
      },
      null,
      1,
    );
  },
};

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
