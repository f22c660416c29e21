import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  degrees,
  PDFDocument,
  pushGraphicsState,
  popGraphicsState,
  rgb,
  setLineCap,
  LineCapStyle,
  StandardFonts,
} from '@cantoo/pdf-lib';
import type { Hand, Op, Point } from './hand.ts';

/** Writes pages as a PDF in the manner of one program. */
export type Producer = (pages: readonly Hand[]) => Promise<Uint8Array>;

const inFolder = <T>(work: (folder: string) => T): T => {
  const folder = mkdtempSync(join(tmpdir(), 'hands-'));
  try {
    return work(folder);
  } finally {
    rmSync(folder, { recursive: true });
  }
};
const n = (v: number) => String(Math.round(v * 1e4) / 1e4);
const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');

/** Arcs and circles as cubic curves of at most a quarter turn. */
function beziers(at: Point, r: number, start: number, end: number): Point[] {
  const parts = Math.max(1, Math.ceil((end - start) / (Math.PI / 2) - 1e-9)),
    step = (end - start) / parts,
    k = (4 / 3) * Math.tan(step / 4);
  const points: Point[] = [[at[0] + r * Math.cos(start), at[1] + r * Math.sin(start)]];
  for (let i = 0; i < parts; i++) {
    const a = start + i * step,
      b = a + step;
    points.push(
      [at[0] + r * (Math.cos(a) - k * Math.sin(a)), at[1] + r * (Math.sin(a) + k * Math.cos(a))],
      [at[0] + r * (Math.cos(b) + k * Math.sin(b)), at[1] + r * (Math.sin(b) - k * Math.cos(b))],
      [at[0] + r * Math.cos(b), at[1] + r * Math.sin(b)],
    );
  }
  return points;
}

function svgOf(hand: Hand, font: string, letters: boolean): string {
  const y = (v: number) => n(hand.height - v),
    pt = ([px, py]: Point) => `${n(px)} ${y(py)}`;
  const one = (o: Op): string => {
    const stroke =
      'width' in o ? `stroke="${o.colour}" stroke-width="${n(o.width)}" fill="none"` : `fill="${o.colour}"`;
    if (o.op === 'line')
      return `<path d="M${o.points.map(pt).join('L')}${o.close ? 'Z' : ''}" ${stroke}${o.dash ? ` stroke-dasharray="${o.dash.join(' ')}"` : ''}/>`;
    if (o.op === 'fill') return `<path d="M${o.points.map(pt).join('L')}Z" ${stroke}/>`;
    if (o.op === 'circle')
      return `<circle cx="${n(o.at[0])}" cy="${y(o.at[1])}" r="${n(o.r)}" ${o.fill ? `fill="${o.colour}"` : stroke}/>`;
    if (o.op === 'arc') {
      const end = (a: number): Point => [o.at[0] + o.r * Math.cos(a), o.at[1] + o.r * Math.sin(a)];
      return `<path d="M${pt(end(o.start))}A${n(o.r)} ${n(o.r)} 0 ${o.end - o.start > Math.PI ? 1 : 0} 0 ${pt(end(o.end))}" ${stroke}/>`;
    }
    const at = (text: string, p: Point, anchor: string) =>
      `<text x="${n(p[0])}" y="${y(p[1])}" font-size="${n(o.size)}" font-family="${font}" text-anchor="${anchor}" fill="${o.colour}"${o.radians ? ` transform="rotate(${n((-o.radians * 180) / Math.PI)} ${n(p[0])} ${y(p[1])})"` : ''} xml:space="preserve">${escaped(text)}</text>`;
    if (!letters) return at(o.text, o.at, o.anchor);
    // One text a letter, as some programs place them.
    const advance = 0.6 * o.size,
      back =
        o.anchor === 'middle'
          ? (o.text.length * advance) / 2
          : o.anchor === 'end'
            ? o.text.length * advance
            : 0;
    return [...o.text]
      .map((c, i) =>
        at(
          c,
          [
            o.at[0] + Math.cos(o.radians) * (i * advance - back),
            o.at[1] + Math.sin(o.radians) * (i * advance - back),
          ],
          'start',
        ),
      )
      .join('');
  };
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(hand.width)}pt" height="${n(hand.height)}pt" viewBox="0 0 ${n(hand.width)} ${n(hand.height)}">${hand.ops.map(one).join('\n')}</svg>`;
}

export const byRsvg =
  (font = 'DejaVu Sans', letters = false): Producer =>
  async (pages) =>
    inFolder((folder) => {
      const names = pages.map((p, i) => {
        const name = join(folder, `${i}.svg`);
        writeFileSync(name, svgOf(p, font, letters));
        return name;
      });
      execFileSync('rsvg-convert', ['-f', 'pdf', '-o', join(folder, 'out.pdf'), ...names]);
      return readFileSync(join(folder, 'out.pdf'));
    });

export const byChromium =
  (font = 'Liberation Sans'): Producer =>
  async (pages) =>
    inFolder((folder) => {
      const [{ width, height }] = pages;
      writeFileSync(
        join(folder, 'page.html'),
        `<!doctype html><meta charset="utf-8"><style>@page{size:${n(width)}pt ${n(height)}pt;margin:0}body{margin:0}svg{display:block;break-after:page}</style>${pages.map((p) => svgOf(p, font, false)).join('')}`,
      );
      execFileSync(
        '/usr/bin/chromium',
        [
          '--headless',
          '--no-sandbox',
          '--disable-gpu',
          '--disable-background-networking',
          '--no-pdf-header-footer',
          `--user-data-dir=${join(folder, 'user')}`,
          `--print-to-pdf=${join(folder, 'out.pdf')}`,
          join(folder, 'page.html'),
        ],
        { stdio: 'ignore' },
      );
      return readFileSync(join(folder, 'out.pdf'));
    });

/** PostScript written by hand, distilled. */
export const byGhostscript =
  (font = 'Helvetica'): Producer =>
  async (pages) =>
    inFolder((folder) => {
      const pt = ([x, y]: Point) => `${n(x)} ${n(y)}`,
        colour = (c: string) =>
          `${[1, 3, 5].map((i) => n(parseInt(c.slice(i, i + 2), 16) / 255)).join(' ')} setrgbcolor`;
      const string = (text: string) =>
        `(${[...text].map((c) => (/[()\\]/.test(c) ? `\\${c}` : c.charCodeAt(0) > 126 ? `\\${c.charCodeAt(0).toString(8)}` : c)).join('')})`;
      const one = (o: Op): string => {
        const path = (points: readonly Point[]) =>
          `newpath ${points.map((p, i) => `${pt(p)} ${i === 0 ? 'moveto' : 'lineto'}`).join(' ')}`;
        const head = `${colour(o.colour)} ${'width' in o ? `${n(o.width)} setlinewidth` : ''}`;
        if (o.op === 'line')
          return `${head} [${(o.dash ?? []).join(' ')}] 0 setdash ${path(o.points)} ${o.close ? 'closepath ' : ''}stroke`;
        if (o.op === 'fill') return `${head} ${path(o.points)} closepath fill`;
        if (o.op === 'circle')
          return `${head} newpath ${pt(o.at)} ${n(o.r)} 0 360 arc closepath ${o.fill ? 'fill' : 'stroke'}`;
        if (o.op === 'arc')
          return `${head} newpath ${pt(o.at)} ${n(o.r)} ${n((o.start * 180) / Math.PI)} ${n((o.end * 180) / Math.PI)} arc stroke`;
        const shift = {
          start: '',
          middle: 'dup stringwidth pop -2 div 0 rmoveto ',
          end: 'dup stringwidth pop neg 0 rmoveto ',
        }[o.anchor];
        return `gsave ${head} /Own ${n(o.size)} selectfont ${pt(o.at)} translate ${n((o.radians * 180) / Math.PI)} rotate 0 0 moveto ${string(o.text)} ${shift}show grestore`;
      };
      const latin = `/${font} findfont dup length dict begin {1 index /FID ne {def} {pop pop} ifelse} forall /Encoding ISOLatin1Encoding def currentdict end /Own exch definefont pop`;
      writeFileSync(
        join(folder, 'page.ps'),
        `%!PS-Adobe-3.0\n${latin}\n${pages.map((p) => `<< /PageSize [${n(p.width)} ${n(p.height)}] >> setpagedevice\n${p.ops.map(one).join('\n')}\nshowpage`).join('\n')}\n`,
      );
      execFileSync('gs', [
        '-q',
        '-dNOPAUSE',
        '-dBATCH',
        '-sDEVICE=pdfwrite',
        '-dAutoRotatePages=/None',
        `-sOutputFile=${join(folder, 'out.pdf')}`,
        join(folder, 'page.ps'),
      ]);
      return readFileSync(join(folder, 'out.pdf'));
    });

export const byLibrary =
  (pieces = 1): Producer =>
  async (pages) => {
    const doc = await PDFDocument.create();
    const font = await doc.embedFont(StandardFonts.Helvetica);
    for (const hand of pages) {
      const page = doc.addPage([hand.width, hand.height]);
      page.pushOperators(pushGraphicsState(), setLineCap(LineCapStyle.Round));
      for (const o of hand.ops) {
        const c = rgb(
          parseInt(o.colour.slice(1, 3), 16) / 255,
          parseInt(o.colour.slice(3, 5), 16) / 255,
          parseInt(o.colour.slice(5, 7), 16) / 255,
        );
        // The library's paths run downwards from where they are put.
        const svg = (points: readonly Point[], close: boolean) =>
          `M${points.map(([x, y]) => `${n(x)} ${n(-y)}`).join('L')}${close ? 'Z' : ''}`;
        const curve = ([first, ...rest]: readonly Point[]) =>
          `M${n(first[0])} ${n(-first[1])}C${rest.map(([x, y]) => `${n(x)} ${n(-y)}`).join(' ')}`;
        const stroked = 'width' in o ? { borderColor: c, borderWidth: o.width } : {};
        if (o.op === 'line') {
          const points = o.close ? [...o.points, o.points[0]] : o.points;
          // Lines in short pieces, lapped, as some programs break them.
          for (let i = 0; i + 1 < points.length; i++)
            for (let k = 0; k < pieces; k++) {
              const at = (t: number): Point => [
                points[i][0] + (points[i + 1][0] - points[i][0]) * t,
                points[i][1] + (points[i + 1][1] - points[i][1]) * t,
              ];
              page.drawSvgPath(svg([at(Math.max(0, (k - 0.1) / pieces)), at((k + 1) / pieces)], false), {
                x: 0,
                y: 0,
                ...stroked,
                ...(o.dash && { borderDashArray: o.dash }),
              });
            }
        } else if (o.op === 'fill') page.drawSvgPath(svg(o.points, true), { x: 0, y: 0, color: c });
        else if (o.op === 'circle')
          page.drawSvgPath(`${curve(beziers(o.at, o.r, 0, 2 * Math.PI))}Z`, {
            x: 0,
            y: 0,
            ...(o.fill ? { color: c } : stroked),
          });
        else if (o.op === 'arc')
          page.drawSvgPath(curve(beziers(o.at, o.r, o.start, o.end)), { x: 0, y: 0, ...stroked });
        else {
          const w = font.widthOfTextAtSize(o.text, o.size) * { start: 0, middle: 0.5, end: 1 }[o.anchor];
          page.drawText(o.text, {
            x: o.at[0] - w * Math.cos(o.radians),
            y: o.at[1] - w * Math.sin(o.radians),
            size: o.size,
            font,
            color: c,
            rotate: degrees((o.radians * 180) / Math.PI),
          });
        }
      }
      page.pushOperators(popGraphicsState());
    }
    return doc.save();
  };
