import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type SharpModule from 'sharp';
import { chance, type Point } from './hand.ts';

const sharp = createRequire(new URL('../../../package.json', import.meta.url))('sharp') as typeof SharpModule;

/**
 * How a photo is taken: how far the telephone leans across and up and how far it is turned (degrees), how much of the frame the sheet's
 * longer side takes (beyond 1 its edges are outside), the light, the table under it, and what the lens does to straight lines
 * (share of the radius at the frame's corner).
 */
export interface Pose {
  across: number;
  up: number;
  turn: number;
  fill: number;
  table?: 'wood' | 'dark' | 'white' | 'tiles';
  shadow?: number;
  lens?: number;
  grain?: number;
  quality?: number;
  blur?: number;
  pixels?: readonly [number, number];
}

/** Focal length as a share of the frame's longer side, as telephones have it. */
const FOCAL = 0.76;
/** Pixels per point at which the file's reader lays a picture that says no resolution. */
const PER_POINT = 96 / 72;

/** Photographs a sheet's first page: a JPEG, and where each point of the sheet went (points, y up). */
export async function photographed(
  pdf: Uint8Array,
  pose: Pose,
  seed: number,
): Promise<{ jpeg: Buffer; move: (p: Point) => Point }> {
  const [W, H] = pose.pixels ?? [4000, 3000];
  const folder = mkdtempSync(join(tmpdir(), 'photo-'));
  try {
    writeFileSync(join(folder, 'in.pdf'), pdf);
    const dpi = 300;
    execFileSync('pdftoppm', [
      '-r',
      String(dpi),
      '-png',
      '-singlefile',
      join(folder, 'in.pdf'),
      join(folder, 'page'),
    ]);
    const { data: page, info } = await sharp(readFileSync(join(folder, 'page.png')), {
      limitInputPixels: false,
    })
      .flatten({ background: '#ffffff' })
      .greyscale()
      .blur(0.8)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const w = info.width,
      h = info.height;
    // The camera looks at the middle of the sheet; axes right, down, away; the sheet turned about all three.
    const [a, b, c] = [pose.across, pose.up, pose.turn].map((d) => (d * Math.PI) / 180),
      f = FOCAL * W;
    const rotated = (x: number, y: number): [number, number, number] => {
      const [x1, y1] = [x * Math.cos(c) - y * Math.sin(c), x * Math.sin(c) + y * Math.cos(c)];
      const [y2, z2] = [y1 * Math.cos(b), y1 * Math.sin(b)];
      return [x1 * Math.cos(a) + z2 * Math.sin(a), y2, -x1 * Math.sin(a) + z2 * Math.cos(a)];
    };
    const away = (f * Math.max(w / W, h / H)) / pose.fill,
      u = rotated(1, 0),
      v = rotated(0, 1);
    // Frame (from its middle) from sheet pixels (from the middle): [f u, f v, (0, 0, f away)] over depth.
    const m = [f * u[0], f * v[0], 0, f * u[1], f * v[1], 0, u[2], v[2], away];
    const inverse = adjugate(m),
      k = pose.lens ?? 0,
      corner2 = (W * W + H * H) / 4;
    const random = chance(seed),
      light = [0.2 + 0.6 * random(), 0.2 + 0.6 * random()],
      shade = random() * Math.PI;
    const out = Buffer.alloc(W * H);
    const beneath = tableOf(pose.table ?? 'wood', random);
    for (let y = 0; y < H; y++) {
      for (let x = 0; x < W; x++) {
        const px = x + 0.5 - W / 2,
          py = y + 0.5 - H / 2,
          bend = 1 + (k * (px * px + py * py)) / corner2,
          qx = px * bend,
          qy = py * bend;
        const d = inverse[6] * qx + inverse[7] * qy + inverse[8],
          sx = (inverse[0] * qx + inverse[1] * qy + inverse[2]) / d + w / 2 - 0.5,
          sy = (inverse[3] * qx + inverse[4] * qy + inverse[5]) / d + h / 2 - 0.5;
        let grey = beneath(px, py);
        if (sx >= 0 && sy >= 0 && sx < w - 1 && sy < h - 1) {
          const i = Math.floor(sy) * w + Math.floor(sx),
            fx = sx - Math.floor(sx),
            fy = sy - Math.floor(sy);
          grey =
            18 +
            0.9 *
              ((1 - fy) * ((1 - fx) * page[i] + fx * page[i + 1]) +
                fy * ((1 - fx) * page[i + w] + fx * page[i + w + 1]));
        }
        const far = Math.hypot(x / W - light[0], y / H - light[1]);
        const band = Math.min(
          1,
          Math.max(0, ((px * Math.cos(shade) + py * Math.sin(shade)) / W - 0.12) * 14),
        );
        const lit = (1.02 - 0.38 * far) * (1 - (pose.shadow ?? 0.25) * band);
        out[y * W + x] = Math.max(
          0,
          Math.min(255, grey * lit + (pose.grain ?? 7) * (random() + random() + random() - 1.5)),
        );
      }
    }
    const jpeg = await sharp(out, { raw: { width: W, height: H, channels: 1 } })
      .blur(pose.blur ?? 0.7)
      .jpeg({ quality: pose.quality ?? 82 })
      .toBuffer();
    const move = ([x, y]: Point): Point => {
      const sx = (x * dpi) / 72 - w / 2,
        sy = h - (y * dpi) / 72 - h / 2,
        d = m[6] * sx + m[7] * sy + m[8];
      const qx = (m[0] * sx + m[1] * sy) / d,
        qy = (m[3] * sx + m[4] * sy) / d;
      // The lens's map is undone by going back and forth: it changes little.
      let [px, py] = [qx, qy];
      for (let i = 0; i < 30; i++) {
        const bend = 1 + (k * (px * px + py * py)) / corner2;
        [px, py] = [qx / bend, qy / bend];
      }
      return [(px + W / 2) / PER_POINT, (H / 2 - py) / PER_POINT];
    };
    return { jpeg, move };
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function adjugate([a, b, c, d, e, f, g, h, i]: number[]): number[] {
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
}

/** The grey of what lies under the sheet, by place from the middle of the frame. */
function tableOf(kind: NonNullable<Pose['table']>, random: () => number): (x: number, y: number) => number {
  if (kind === 'dark') return () => 48;
  if (kind === 'white') return () => 214;
  const turn = random() * 0.6 - 0.3,
    c = Math.cos(turn),
    s = Math.sin(turn);
  if (kind === 'tiles')
    return (x, y) => {
      const u = x * c - y * s,
        v = x * s + y * c;
      return Math.abs(((u % 420) + 420) % 420) < 9 || Math.abs(((v % 420) + 420) % 420) < 9
        ? 90
        : 150 + 12 * Math.sin(u / 77) * Math.sin(v / 53);
    };
  return (x, y) => {
    const v = x * s + y * c,
      u = x * c - y * s;
    return (
      118 +
      22 * Math.sin(v / 23 + 3 * Math.sin(u / 700)) +
      10 * Math.sin(v / 7 + u / 400) -
      (Math.abs(((v % 560) + 560) % 560) < 5 ? 50 : 0)
    );
  };
}
