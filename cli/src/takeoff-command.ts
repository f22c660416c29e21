import { takeoff, type Takeoff } from '@calque/core/takeoff';
import { formatNumber } from '@calque/core/units';
import { readPackagedModel } from '@calque/store/package';

export interface TakeoffFlags {
  json?: boolean;
}

/** What has been traced in a package, counted; as JSON or as tables to be read. */
export async function takeoffCommand(file: string, { json }: TakeoffFlags): Promise<string> {
  const counted = takeoff(await readPackagedModel(file));
  return json ? JSON.stringify({ units: 'mm', ...counted }) : inWords(counted);
}

const mm = (v: number) => formatNumber(v, 0);
const m2 = (v: number) => formatNumber(v, 2);
const mark = (assumed: readonly string[]) => (assumed.length > 0 ? `  assumed: ${assumed.join(', ')}` : '');

function inWords({ storeys, spaces, walls, openings, ...parts }: Takeoff): string {
  const total = (of: (w: Takeoff['walls'][number]) => number) => walls.reduce((sum, w) => sum + of(w), 0);
  return [
    ...storeys.map((s) => `${s.name}: level ${mm(s.level)}, height ${mm(s.height)} mm${mark(s.assumed)}`),
    '',
    spaces.length === 0 ? 'No rooms: the walls enclose nothing.' : `${spaces.length} rooms:`,
    ...spaces.map(
      (s) =>
        `  ${s.storey}  ${s.number ? `${s.number} ` : ''}${s.name}: ${m2(s.area)} m²${s.printed === null ? '' : ` (printed ${m2(s.printed)})`}, ${mm(s.perimeter)} mm round, ${m2(s.volume)} m³${mark(s.assumed)}`,
    ),
    walls.length === 0
      ? 'No walls.'
      : `${walls.length} walls: ${mm(total((w) => w.length))} mm long, ${m2(total((w) => w.area))} m² of one face, ${m2(total((w) => w.net))} m² without openings, ${formatNumber(
          total((w) => w.volume),
          3,
        )} m³`,
    ...walls.map(
      (w) =>
        `  ${w.storey}  ${w.type}: ${mm(w.length)} x ${mm(w.thickness)} x ${mm(w.height)} mm, ${m2(w.net)} m²${mark(w.assumed)}`,
    ),
    openings.length === 0 ? 'No openings.' : `${openings.length} openings:`,
    ...openings.map(
      (o) =>
        `  ${o.storey}  ${o.tag ? `${o.tag} ` : ''}${o.kind} ${mm(o.width)} x ${mm(o.height)} mm, sill ${mm(o.sill)}${o.hung ? `, hung at its ${o.hung.edge === 'from' ? 'first' : 'second'} edge, opens to the ${o.hung.opens}` : ''}${mark(o.assumed)}`,
    ),
    ...parts.slabs.map(
      (s) => `Slab  ${s.storey}  ${m2(s.area)} m², ${mm(s.thickness)} mm thick${mark(s.assumed)}`,
    ),
    ...parts.roofs.map(
      (r) => `Roof  ${r.storey}  ${m2(r.area)} m² at ${formatNumber(r.pitch, 2)}°${mark(r.assumed)}`,
    ),
    ...parts.columns.map((c) => `Column  ${c.storey}  ${mm(c.height)} mm high${mark(c.assumed)}`),
    ...parts.stairs.map(
      (s) =>
        `Stair  ${s.storey}  ${s.risers} risers of ${formatNumber(s.rise, 1)} mm, going ${formatNumber(s.going, 1)} mm${s.doubts.length > 0 ? `  unusual: ${s.doubts.join('; ')}` : ''}${mark(s.assumed)}`,
    ),
    ...(parts.members.length === 0 ? [] : [`${parts.members.length} members:`]),
    ...parts.cuts.map(
      (c) =>
        `  ${c.section}, ${c.material}: ${c.count} of ${mm(c.length)} mm${c.ends === 'square' ? '' : `, ends ${c.ends}`}${c.holes > 0 ? `, ${c.holes} holes` : ''}${c.mass === null ? '' : `, ${formatNumber(c.mass, 1)} kg`}`,
    ),
    ...parts.assemblies.map(
      (a) =>
        `  Assembly ${a.mark}: ${a.count} of ${a.section} with ${a.parts}, ${formatNumber(a.mass, 1)} kg each`,
    ),
    ...parts.plates.map(
      (p) =>
        `  Plate ${p.mark}: ${p.count} of ${mm(p.length)} x ${mm(p.width)} x ${mm(p.thickness)} mm, ${p.holes} holes, ${formatNumber(p.mass, 1)} kg each`,
    ),
    ...parts.bolts.map((b) => `  Bolts ${b.name}, ${b.grade}: ${b.count}`),
    ...parts.stock.map(
      (s) =>
        `  ${s.section}, ${s.material}: ${s.bars.length} bars, ${mm(s.bought)} mm bought, ${formatNumber(s.waste * 100, 1)} % left over${s.tooLong.length > 0 ? `, ${s.tooLong.length} too long for any bar` : ''}`,
    ),
  ].join('\n');
}
