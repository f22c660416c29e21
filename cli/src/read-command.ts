import { writeFileSync } from 'node:fs';
import { encodeLinework, kindCode, penUses, scaleNotes, type Linework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { MM_PER_POINT } from '@calque/core/geometry';
import { MM_PER } from '@calque/core/units';
import { DEFAULT_MEMORY_MB, type FileFacts, type ReadPage } from '@calque/reader';
import { readLimited } from './read-limited.ts';

export interface ReadFlags {
  page?: number;
  linework?: boolean;
  allLayers?: boolean;
  password?: string;
  json?: boolean;
  arrays?: string;
  units?: 'mm' | 'cm' | 'm' | 'in' | 'ft';
  seconds: number;
}

export async function readCommand(file: string, flags: ReadFlags): Promise<string> {
  const { facts, pages } = await readLimited(
    file,
    {
      page: flags.page,
      password: flags.password,
      allLayers: flags.allLayers,
      millimetresPerUnit: flags.units && MM_PER[flags.units],
      maxMegabytes: DEFAULT_MEMORY_MB,
    },
    flags.seconds,
  );
  if (flags.arrays) {
    const { linework } = pages[0];
    writeFileSync(flags.arrays, encodeLinework(linework, indexBytes(buildSheetIndex(linework))));
  }
  if (!flags.json) return [fileWords(facts), ...pages.map(pageWords)].join('\n');
  return JSON.stringify({
    file: { pages: facts.pages, kind: facts.kind, encrypted: facts.encrypted, repaired: facts.repaired },
    pages: pages.map((page) => pageJson(page, flags.linework === true)),
  });
}

function pageJson({ page, linework: l, milliseconds, unknown }: ReadPage, withLinework: boolean) {
  const pens = penUses(l).map(({ pen, items, length }) => ({
    ...l.pens[pen],
    colour: `#${l.pens[pen].colour.toString(16).padStart(6, '0')}`,
    items,
    length: Math.round(length * 1000) / 1000,
  }));
  return {
    page,
    size: { width: l.width, height: l.height },
    content: l.content,
    counts: {
      ...l.counts,
      pens: pens.length,
      hatches: l.hatches,
      dimensions: dimensionsOf(l),
      markups: l.markups.length,
    },
    leftOut: l.leftOut,
    layers: l.layers,
    pens,
    hatches: l.hatches,
    markups: markupsJson(l),
    ...(l.reference && {
      origin: l.reference.origin,
      millimetresPerPoint: MM_PER_POINT,
      unknown: unknown ?? {},
    }),
    scaleNotes: scaleNotes(l.texts),
    milliseconds: Math.round(milliseconds * 10) / 10,
    ...(withLinework ? lineworkJson(l) : {}),
  };
}

function lineworkJson(l: Linework) {
  return {
    segments: rows(l.segments, 4, l.segmentStyle, l.segmentObject),
    arcs: rows(l.arcs, 5, l.arcStyle, l.arcObject),
    circles: rows(l.circles, 3, l.circleStyle, l.circleObject),
    curves: rows(l.curves, 8, l.curveStyle, l.curveObject),
    fillEdges: rows(l.fillEdges, 4, l.fillEdgeStyle, l.fillEdgeObject),
    texts: l.texts.map(({ text, x, y, height, radians }) => ({ text, x, y, height, radians })),
  };
}

const DIMENSION = kindCode('dimension');
const dimensionsOf = (l: Linework) => l.texts.filter((t) => t.kind === DIMENSION).length;

/** Items of the page itself; the lines of mark-ups stand with them. */
function rows(values: Float64Array, stride: number, style: Int32Array, object: Int32Array): number[][] {
  return Array.from(object, (n, i) =>
    n < 0 ? null : [...values.subarray(i * stride, (i + 1) * stride), style[2 * i]],
  ).filter((row) => row !== null);
}

/** Mark-ups with their straight lines. */
const markupsJson = (l: Linework) =>
  l.markups.map((m, k) => ({
    ...m,
    lines: Array.from(l.segmentObject, (n, i) =>
      n === -1 - k ? [...l.segments.subarray(4 * i, 4 * i + 4)] : null,
    ).filter((line) => line !== null),
  }));

const CONTENT_WORDS = {
  vector: 'lines to snap to',
  scan: 'a scan, no lines to snap to',
  mixed: 'a scan with lines over it',
  empty: 'nothing',
};

function fileWords({ pages, kind, encrypted, repaired }: FileFacts): string {
  const notes = [encrypted && 'encrypted', repaired && 'damaged, read after repair'].filter(Boolean);
  return `${kind.toUpperCase()}, ${pages === 1 ? '1 page' : `${pages} pages`}${notes.length ? ` (${notes.join(', ')})` : ''}`;
}

function pageWords({ page, linework: l, milliseconds, unknown }: ReadPage): string {
  const mm = (points: number) => (points * MM_PER_POINT).toFixed(1);
  const left = Object.entries(l.leftOut)
    .filter(([, n]) => n > 0)
    .map(([why, n]) => `${n} ${LEFT_OUT_WORDS[why as keyof typeof LEFT_OUT_WORDS]}`);
  const { segments, arcs, circles, curves, texts, images } = l.counts;
  const notes = scaleNotes(l.texts);
  return [
    `Page ${page}: ${mm(l.width)} x ${mm(l.height)} mm, ${CONTENT_WORDS[l.content]}`,
    `  ${segments} segments, ${arcs} arcs, ${circles} circles, ${curves} curves, ${texts} texts, ${images} pictures (${milliseconds.toFixed(0)} ms)`,
    `  ${penUses(l).length} pens, ${l.hatches} hatched areas, ${dimensionsOf(l)} dimensions${l.markups.length ? `, ${l.markups.length} mark-ups` : ''}`,
    ...(unknown && Object.keys(unknown).length
      ? [
          `  not understood: ${Object.entries(unknown)
            .map(([name, n]) => `${n} ${name}`)
            .join(', ')}`,
        ]
      : []),
    ...(left.length ? [`  left out: ${left.join(', ')}`] : []),
    ...(l.layers.length
      ? [`  layers: ${l.layers.map((x) => `${x.name}${x.on ? '' : ' (off)'} ${x.segments}`).join(', ')}`]
      : []),
    ...(notes.length ? [`  states: ${notes.map((n) => n.text).join('; ')}`] : []),
  ].join('\n');
}

const LEFT_OUT_WORDS = {
  clipped: 'hidden by a clip',
  outside: 'outside the page',
  zeroLength: 'without length',
  unpainted: 'without paint',
  paperColoured: 'in the colour of the paper',
  covered: 'covered by later fills',
};
