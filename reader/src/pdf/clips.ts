import { flattenPath, Verb, CLOSE } from '@calque/core/linework';
import { makeRegion, type Region, type Transform } from '@calque/core/geometry';
import type { PdfiumExports } from './engine.ts';

const VERB_OF_TYPE = [Verb.line, Verb.curve, Verb.move] as const;
const NOTHING: Region = { rings: [], rule: 'nonzero', box: [0, 0, 0, 0] };
const CACHE_LIMIT = 2000;

/**
 * Reads the clip paths of objects. Neighbours share their clips, so equal ones (same points, same
 * enclosing clips and matrix) come back as the very same array, which the interpreter keeps by identity.
 */
export class ClipReader {
  private readonly known = new Map<readonly Region[], Map<string, readonly Region[]>>();
  private lastOuter: readonly Region[] | null = null;
  private lastMatrix: Transform | null = null;
  private lastRaw = new Float32Array(0);
  private lastClips: readonly Region[] = [];
  private raw = new Float32Array(256);

  constructor(private readonly pdfium: PdfiumExports) {}

  clipsOf(object: number, outer: readonly Region[], matrix: Transform): readonly Region[] {
    const { pdfium } = this;
    const clip = pdfium.FPDFPageObj_GetClipPath(object);
    if (clip === 0) return outer;
    const paths = pdfium.FPDFClipPath_CountPaths(clip);
    if (paths <= 0) return outer;
    const used = this.readRaw(clip, paths);
    if (
      this.lastOuter === outer &&
      this.lastMatrix === matrix &&
      used === this.lastRaw.length &&
      this.sameAsLast(used)
    )
      return this.lastClips;
    const raw = this.raw.slice(0, used);
    const key = `${matrix.join(' ')}|${raw.join(' ')}`;
    let byKey = this.known.get(outer);
    if (!byKey || byKey.size > CACHE_LIMIT) {
      byKey = new Map();
      this.known.set(outer, byKey);
    }
    let clips = byKey.get(key);
    if (!clips) {
      clips = [...outer, ...regionsOf(raw, matrix)];
      byKey.set(key, clips);
    }
    this.lastOuter = outer;
    this.lastMatrix = matrix;
    this.lastRaw = raw;
    this.lastClips = clips;
    return clips;
  }

  /** Copies all clip paths into `raw`: per path its point count, then x, y, verb of each point. */
  private readRaw(clip: number, paths: number): number {
    const { pdfium } = this;
    let used = 0;
    for (let p = 0; p < paths; p++) {
      const n = Math.max(0, pdfium.FPDFClipPath_CountPathSegments(clip, p));
      if (used + 1 + 3 * n > this.raw.length) {
        const next = new Float32Array(2 * (used + 1 + 3 * n));
        next.set(this.raw.subarray(0, used));
        this.raw = next;
      }
      this.raw[used++] = n;
      if (n === 0) continue;
      const pointer = pdfium.FPDFClipPath_GetPathSegment(clip, p, 0);
      const f32 = new Float32Array(pdfium.memory.buffer, pointer, n * 3);
      const u8 = new Uint8Array(pdfium.memory.buffer, pointer, n * 12);
      for (let i = 0; i < n; i++) {
        this.raw[used++] = f32[3 * i];
        this.raw[used++] = f32[3 * i + 1];
        this.raw[used++] = VERB_OF_TYPE[u8[12 * i + 8]] | (u8[12 * i + 9] ? CLOSE : 0);
      }
    }
    return used;
  }

  private sameAsLast(used: number): boolean {
    for (let i = 0; i < used; i++) if (this.raw[i] !== this.lastRaw[i]) return false;
    return true;
  }
}

function regionsOf(raw: Float32Array, matrix: Transform): Region[] {
  const out: Region[] = [];
  for (let at = 0; at < raw.length;) {
    const n = raw[at++];
    const coords = new Float32Array(2 * n),
      verbs = new Uint8Array(n);
    for (let i = 0; i < n; i++) {
      coords[2 * i] = raw[at++];
      coords[2 * i + 1] = raw[at++];
      verbs[i] = raw[at++];
    }
    const rings = flattenPath({ coords, verbs, count: n }, matrix);
    // The engine does not tell a clip's fill rule; nonzero is what nearly all producers write.
    out.push(rings.length > 0 ? makeRegion(rings, 'nonzero') : NOTHING);
  }
  return out;
}
