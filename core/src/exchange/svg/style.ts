import { compose, IDENTITY, rotationAbout, type Transform } from '../../geometry/index.ts';

export type Declarations = Record<string, string | undefined>;

/** "fill: none; stroke: #123" as properties. */
export function declarations(text: string): Declarations {
  const out: Declarations = {};
  for (const part of text.split(';')) {
    const at = part.indexOf(':');
    if (at > 0)
      out[part.slice(0, at).trim()] = part
        .slice(at + 1)
        .replace(/!important/, '')
        .trim();
  }
  return out;
}

/** Without its comments; one that is never closed hides the rest. */
function withoutComments(css: string): string {
  const parts: string[] = [];
  for (let at = 0; at < css.length;) {
    const open = css.indexOf('/*', at);
    parts.push(css.slice(at, open < 0 ? css.length : open));
    const close = open < 0 ? -1 : css.indexOf('*/', open + 2);
    if (close < 0) break;
    at = close + 2;
  }
  return parts.join('');
}

/** Selectors and bodies of rules that hold no others, read from left to right once. */
function* rulesOf(css: string): Generator<[string, string]> {
  for (let at = 0; ;) {
    const open = css.indexOf('{', at),
      close = open < 0 ? -1 : css.indexOf('}', open);
    if (close < 0) return;
    // Of rules within a rule the innermost counts.
    const inner = css.lastIndexOf('{', close);
    const within = inner > open ? open + 1 : at;
    yield [css.slice(css.lastIndexOf('}', inner) < at ? within : at, inner), css.slice(inner + 1, close)];
    at = close + 1;
  }
}

/** Rules of one element name, class or id each, the later winning within its kind; other selectors are not understood and left out. */
export function stylesheet(
  css: string,
): (name: string, classes: string | undefined, id: string | undefined) => Declarations {
  const rules = new Map<string, Declarations>();
  for (const [selectors, body] of rulesOf(withoutComments(css))) {
    for (const selector of selectors.split(',').map((s) => s.trim())) {
      if (/^[.#]?[\w-]+$/.test(selector))
        rules.set(selector, { ...rules.get(selector), ...declarations(body) });
    }
  }
  return (name, classes, id) => ({
    ...rules.get(name),
    ...Object.assign({}, ...(classes ?? '').split(/\s+/).map((c) => rules.get(`.${c}`) ?? {})),
    ...(id ? rules.get(`#${id}`) : undefined),
  });
}

/** CSS pixels per unit. */
const UNITS: Record<string, number> = {
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  in: 96,
  mm: 96 / 25.4,
  cm: 96 / 2.54,
  q: 96 / 101.6,
};

/** Longer texts are neither lengths nor lists of transforms. */
const LONGEST_LENGTH = 100,
  LONGEST_TRANSFORM = 4000;

/** A length in CSS pixels; `size` is the font's, for em and ex. Null for none, a percentage or nonsense. */
export function readLength(text: string | undefined, size: number | null): number | null {
  if (text !== undefined && text.length > LONGEST_LENGTH) return null;
  const m = /^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*([a-zA-Z]*)\s*$/.exec(text ?? '');
  if (!m) return null;
  const unit = m[2].toLowerCase();
  if (unit === 'em' || unit === 'rem') return size === null ? null : Number(m[1]) * size;
  if (unit === 'ex') return size === null ? null : (Number(m[1]) * size) / 2;
  return unit in UNITS ? Number(m[1]) * UNITS[unit] : null;
}

/** A list of transforms, the leftmost done last (SVG 1.1, 7.6). */
export function readTransform(text: string | undefined): Transform {
  let out: Transform = IDENTITY;
  if (text !== undefined && text.length > LONGEST_TRANSFORM) return out;
  for (const [, name, list] of (text ?? '').matchAll(/(\w{1,12})\s{0,9}\(([^()]*)\)/g)) {
    const v = list
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (v.some((n) => !Number.isFinite(n))) continue;
    const next = transformOf(name, v);
    if (next) out = compose(out, next);
  }
  return out;
}

function transformOf(name: string, v: readonly number[]): Transform | null {
  const angle = ((v[0] ?? 0) * Math.PI) / 180;
  switch (name) {
    case 'matrix':
      return v.length === 6 ? [v[0], v[1], v[2], v[3], v[4], v[5]] : null;
    case 'translate':
      return [1, 0, 0, 1, v[0] ?? 0, v[1] ?? 0];
    case 'scale':
      return [v[0] ?? 1, 0, 0, v[1] ?? v[0] ?? 1, 0, 0];
    case 'rotate':
      return rotationAbout(angle, [v[1] ?? 0, v[2] ?? 0]);
    case 'skewX':
      return [1, 0, Math.tan(angle), 1, 0, 0];
    case 'skewY':
      return [1, Math.tan(angle), 0, 1, 0, 0];
    default:
      return null;
  }
}

/** The colour names of CSS 2.1 and the few more that drawing programs write. */
const NAMES: Record<string, number> = {
  black: 0,
  silver: 0xc0c0c0,
  gray: 0x808080,
  grey: 0x808080,
  white: 0xffffff,
  maroon: 0x800000,
  red: 0xff0000,
  purple: 0x800080,
  fuchsia: 0xff00ff,
  magenta: 0xff00ff,
  green: 0x008000,
  lime: 0x00ff00,
  olive: 0x808000,
  yellow: 0xffff00,
  navy: 0x000080,
  blue: 0x0000ff,
  teal: 0x008080,
  aqua: 0x00ffff,
  cyan: 0x00ffff,
  orange: 0xffa500,
  brown: 0xa52a2a,
  darkgray: 0xa9a9a9,
  darkgrey: 0xa9a9a9,
  lightgray: 0xd3d3d3,
  lightgrey: 0xd3d3d3,
  dimgray: 0x696969,
  dimgrey: 0x696969,
  darkred: 0x8b0000,
  darkgreen: 0x006400,
  darkblue: 0x00008b,
  pink: 0xffc0cb,
  gold: 0xffd700,
  steelblue: 0x4682b4,
};

/** 0xRRGGBB, or null for what is no colour. */
export function readColour(text: string | undefined, current: number): number | null {
  const t = (text ?? '').trim().toLowerCase();
  if (t === 'currentcolor') return current;
  const hex = /^#([0-9a-f]{3}|[0-9a-f]{6})$/.exec(t)?.[1];
  if (hex) return parseInt(hex.length === 3 ? [...hex].map((c) => c + c).join('') : hex, 16);
  const rgb = /^rgba?\(\s*([\d.]+%?)[\s,]+([\d.]+%?)[\s,]+([\d.]+%?)/.exec(t);
  if (rgb)
    return rgb
      .slice(1, 4)
      .reduce(
        (n, v) =>
          n * 256 +
          Math.max(0, Math.min(255, Math.round(v.endsWith('%') ? parseFloat(v) * 2.55 : Number(v)))),
        0,
      );
  return NAMES[t] ?? null;
}
