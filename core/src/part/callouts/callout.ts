import type { HoleHead } from '../../model/index.ts';
import { threadNamed, type Thread } from '../standards/index.ts';

/** What a note at a hole says; millimetres and radians. */
export interface HoleCallout {
  /** As it stands on the sheet. */
  text: string;
  /** Of so many holes. */
  count: number;
  diameter: number;
  /** null: to no depth that it says. */
  depth: number | null;
  through: boolean;
  head: HoleHead | null;
  thread: { name: string; depth: number | null; known: Thread | null } | null;
  /** Its diameter may be so much larger and smaller; null where nothing is said. */
  tolerance: { plus: number; minus: number } | null;
  /** Fit of the hole, such as H7. */
  fit: string | null;
  /** Of all holes that look alike. */
  typical: boolean;
}

export type SheetUnit = 'mm' | 'in';
const MILLIMETRES: Readonly<Record<SheetUnit, number>> = { mm: 1, in: 25.4 };
const LONGEST = 200;
const USUAL_SINK = { mm: 90, in: 82 };

/** A figure with or without a nought before its point, or a fraction, perhaps behind whole ones. */
const FIGURE = String.raw`(?:\d+\s+\d+/\d+|\d+/\d+|\d*[.,]?\d+)`;
const UNIT = String.raw`\s*(?:mm\b|in\b|["″])?`;
type Token =
  | { kind: 'diameter' | 'depth' | 'radius'; value: number }
  | { kind: 'bare'; value: number }
  | { kind: 'angle'; value: number }
  | { kind: 'thread'; name: string }
  | { kind: 'tolerance'; plus: number; minus: number }
  | { kind: 'fit'; name: string }
  | { kind: 'count'; value: number }
  | { kind: 'bore' | 'sink' | 'through' | 'typical' | 'deep' | 'by' };

type Read = (match: RegExpExecArray, figure: (words: string) => number) => Token | null;
const word = (kind: 'bore' | 'sink' | 'through' | 'typical' | 'by') => () => ({ kind });
/** What a callout is made of, the longer spellings before the shorter ones. */
const TOKENS: readonly (readonly [RegExp, Read])[] = [
  [/^\s+|^[;,/|-]\s*/, () => null],
  [
    /^(\d+)\s*(?:[x×]\s*(?=[^\d\s.,])|(?:pl(?:aces|cs)?|places|plc|off|st(?:ü|ue)ck)\b\.?|holes\b|bohrungen\b|bohr\.)/i,
    (m) => ({ kind: 'count', value: Number(m[1]) }),
  ],
  [/^(\d+)\s*[x×]\s+(?=[Øø⌀∅ΦM#.\d])/i, (m) => ({ kind: 'count', value: Number(m[1]) })],
  [/^typ(?:ical)?\b\.?/i, word('typical')],
  [/^(?:thru(?:\s+all)?|through(?:\s+all)?|durchgehend|durch|d\.g\.)(?![a-z])/i, word('through')],
  [
    /^(?:⌴|c'?-?\s?bored?\b|counterbored?\b|s'?-?face\b|spot\s?faced?\b|senkung\b|flachsenkung\b)/i,
    word('bore'),
  ],
  [
    /^(?:⌵|∨|csk\b\.?|c'?-?\s?sunk\b|c'?-?\s?sink\b|countersinks?\b|countersunk\b|senk\b\.?|kegelsenkung\b)/i,
    word('sink'),
  ],
  [
    new RegExp(`^(?:↧|⤓|↓|deep|depth|dp\\.?|tief|tiefe)\\s*(${FIGURE})${UNIT}`, 'i'),
    (m, figure) => ({ kind: 'depth', value: figure(m[1]) }),
  ],
  [/^(?:deep|depth|dp\b\.?|tief|tiefe)/i, () => ({ kind: 'deep' })],
  [
    /^M\s?\d+(?:[.,]\d+)?(?:\s*[x×]\s*\d*[.,]?\d+)?(?:\s*-\s*\d[A-Z]\d?[A-Z]?\b)?/i,
    (m) => ({ kind: 'thread', name: m[0] }),
  ],
  [
    /^(?:#\s?\d+|\d+\/\d+|\.\d+|\d+)\s*(?:"|in\b)?\s*-\s*\d+\s*(?:UNC|UNF|UN)(?:\s*-?\s*[123][AB])?/i,
    (m) => ({ kind: 'thread', name: m[0] }),
  ],
  [
    /^(?:#\s?\d+|\d+\/\d+)\s*-\s*\d+(?:\s*-\s*[123][AB])?\b(?!\s*\/)/i,
    (m) => ({ kind: 'thread', name: m[0] }),
  ],
  [
    new RegExp(`^±\\s*(${FIGURE})${UNIT}`, 'i'),
    (m, figure) => ({ kind: 'tolerance', plus: figure(m[1]), minus: figure(m[1]) }),
  ],
  [
    new RegExp(`^\\+\\s*(${FIGURE})${UNIT}\\s*/?\\s*[-−]\\s*(${FIGURE})${UNIT}`, 'i'),
    (m, figure) => ({ kind: 'tolerance', plus: figure(m[1]), minus: figure(m[2]) }),
  ],
  [
    new RegExp(`^(${FIGURE})\\s*(?:°|º|deg\\b\\.?)`, 'i'),
    (m) => ({ kind: 'angle', value: (number(m[1]) * Math.PI) / 180 }),
  ],
  [
    new RegExp(`^(?:[Øø⌀∅Φ]|dia\\b\\.?|diam\\b\\.?)\\s*(${FIGURE})${UNIT}`, 'i'),
    (m, figure) => ({ kind: 'diameter', value: figure(m[1]) }),
  ],
  [
    new RegExp(`^(${FIGURE})${UNIT}\\s*(?:dia\\b\\.?|diam\\b\\.?|[Øø⌀∅])`, 'i'),
    (m, figure) => ({ kind: 'diameter', value: figure(m[1]) }),
  ],
  [
    /^([A-Z]{1,2}\d{1,2})(?![.\d])/,
    (m) => (/^[A-HJ-Z]/.test(m[1]) && m[1][0] !== 'M' ? { kind: 'fit', name: m[1] } : null),
  ],
  [new RegExp(`^(${FIGURE})${UNIT}`, 'i'), (m, figure) => ({ kind: 'bare', value: figure(m[1]) })],
  [/^[x×@]/i, word('by')],
  [
    /^(?:drill(?:ed)?|drl\b\.?|tap(?:ped)?|ream(?:ed)?|holes?|bore[d]?|far side|near side|bohrung(?:en)?|gewinde|equally spaced|eq\.? sp\.?|on\b|all\b|to\b|from\b|x\b)/i,
    () => null,
  ],
];

const number = (words: string): number => {
  const parts = words.trim().replace(',', '.').split(/\s+/);
  return parts.reduce((sum, part) => {
    const [top, bottom] = part.split('/');
    return sum + Number(top) / Number(bottom ?? 1);
  }, 0);
};

/** The parts of a note; null where something in it is no part of any. */
function tokensOf(text: string, unit: SheetUnit): Token[] | null {
  const tokens: Token[] = [];
  let rest = text;
  while (rest !== '') {
    let taken = false;
    for (const [pattern, read] of TOKENS) {
      const match = pattern.exec(rest);
      if (!match || match[0] === '') continue;
      const said = /mm\b/i.test(match[0]) ? 1 : /(?:in\b|["″])/i.test(match[0]) ? 25.4 : MILLIMETRES[unit];
      const token = read(match, (words) => number(words) * said);
      if (token) tokens.push(token);
      rest = rest.slice(match[0].length);
      taken = true;
      break;
    }
    if (!taken) return null;
  }
  return tokens;
}

/**
 * Reads a note at a hole, such as "4x Ø9 THRU ⌴ Ø15 ↧ 8", "2X 1/4-20 UNC-2B ↧ .75" or "M8 16 deep". Bare figures are in the unit of the sheet. Null for
 * what is no such note: a plain length, a radius, words.
 */
export function readCallout(input: string, unit: SheetUnit): HoleCallout | null {
  const text = input.replace(/[\s\u2009\u202f\u00a0]+/g, ' ').trim();
  if (text === '' || text.length > LONGEST) return null;
  const tokens = tokensOf(text, unit);
  if (!tokens) return null;
  const out: HoleCallout = {
    text,
    count: 1,
    diameter: 0,
    depth: null,
    through: false,
    head: null,
    thread: null,
    tolerance: null,
    fit: null,
    typical: false,
  };
  let of: 'hole' | 'bore' | 'sink' | 'thread' = 'hole';
  const head: { diameter: number; depth: number; angle: number; kind: 'bore' | 'sink' | null } = {
    diameter: 0,
    depth: 0,
    angle: 0,
    kind: null,
  };
  const deep = (value: number) => {
    if (of === 'bore') head.depth = value;
    else if (of === 'thread' && out.thread) out.thread.depth = value;
    else out.depth = value;
  };
  for (const [i, token] of tokens.entries()) {
    const next = tokens[i + 1];
    switch (token.kind) {
      case 'count':
        out.count = token.value;
        break;
      case 'typical':
        out.typical = true;
        break;
      case 'through':
        out.through = true;
        break;
      case 'bore':
      case 'sink':
        of = token.kind;
        head.kind = token.kind;
        break;
      case 'diameter':
        if (of === 'hole' || of === 'thread') out.diameter ||= token.value;
        else head.diameter = token.value;
        break;
      case 'angle':
        head.angle = token.value;
        break;
      case 'depth':
        deep(token.value);
        break;
      case 'thread': {
        const known = threadNamed(token.name);
        out.thread = { name: known?.name ?? token.name.trim(), depth: null, known };
        of = 'thread';
        break;
      }
      case 'tolerance':
        out.tolerance = { plus: token.plus, minus: token.minus };
        break;
      case 'fit':
        out.fit = token.name;
        break;
      case 'bare':
        // "16 deep", "⌴ 15": its figure stands before or behind its word.
        if (next?.kind === 'deep') deep(token.value);
        else if (of === 'bore' || of === 'sink') {
          if (head.diameter === 0) head.diameter = token.value;
          else return null;
        } else return null;
        break;
    }
  }
  if (head.kind === 'bore') {
    if (!(head.diameter > 0 && head.depth > 0)) return null;
    out.head = { kind: 'counterbore', diameter: head.diameter, depth: head.depth };
  } else if (head.kind === 'sink') {
    if (!(head.diameter > 0)) return null;
    out.head = {
      kind: 'countersink',
      diameter: head.diameter,
      angle: head.angle || (USUAL_SINK[unit] * Math.PI) / 180,
    };
  }
  if (out.thread && out.diameter === 0) out.diameter = out.thread.known?.drill ?? 0;
  if (out.thread && !out.thread.known) return out;
  return out.diameter > 0 && Number.isFinite(out.diameter) && out.count >= 1 ? out : null;
}
