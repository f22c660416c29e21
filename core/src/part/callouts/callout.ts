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
  | { kind: 'diameter'; value: number }
  | { kind: 'depth'; value: number }
  | { kind: 'bare'; value: number }
  | { kind: 'angle'; value: number }
  | { kind: 'thread'; name: string }
  | { kind: 'tolerance'; plus: number; minus: number }
  | { kind: 'fit'; name: string }
  | { kind: 'count'; value: number }
  | { kind: 'bore' }
  | { kind: 'sink' }
  | { kind: 'through' }
  | { kind: 'typical' }
  | { kind: 'deep' }
  | { kind: 'by' };

type Read = (match: RegExpExecArray, figure: (words: string) => number) => Token | null;
const word =
  <K extends 'bore' | 'sink' | 'through' | 'typical' | 'by'>(kind: K): Read =>
  () =>
    ({ kind }) as Token;
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

/** A note as it is being read, word by word. */
class Reading {
  count = 1;
  diameter = 0;
  depth: number | null = null;
  through = false;
  typical = false;
  thread: HoleCallout['thread'] = null;
  tolerance: HoleCallout['tolerance'] = null;
  fit: string | null = null;
  /** What a diameter or a depth that comes now is of. */
  private of: 'hole' | 'bore' | 'sink' | 'thread' = 'hole';
  private readonly wide = { kind: null as 'bore' | 'sink' | null, diameter: 0, depth: 0, angle: 0 };

  private deep(value: number): true {
    if (this.of === 'bore') this.wide.depth = value;
    else if (this.of === 'thread' && this.thread) this.thread.depth = value;
    else this.depth = value;
    return true;
  }

  private threaded(name: string): true {
    const known = threadNamed(name);
    this.thread = { name: known?.name ?? name.trim(), depth: null, known };
    this.of = 'thread';
    return true;
  }

  private across(value: number): true {
    if (this.of === 'hole' || this.of === 'thread') this.diameter ||= value;
    else this.wide.diameter = value;
    return true;
  }

  /** A figure without a sign: "16 deep", "⌴ 15". */
  private bare(value: number, next: Token | undefined): boolean {
    if (next?.kind === 'deep') return this.deep(value);
    if (this.of !== 'bore' && this.of !== 'sink') return false;
    if (this.wide.diameter !== 0) return false;
    this.wide.diameter = value;
    return true;
  }

  /** Takes the next of a note; false where it makes no sense there. */
  take(token: Token, next: Token | undefined): boolean {
    const takes: { [K in Token['kind']]?: (t: Extract<Token, { kind: K }>) => boolean | void } = {
      count: (t) => void (this.count = t.value),
      typical: () => void (this.typical = true),
      through: () => void (this.through = true),
      bore: () => void (this.of = this.wide.kind = 'bore'),
      sink: () => void (this.of = this.wide.kind = 'sink'),
      diameter: (t) => this.across(t.value),
      angle: (t) => void (this.wide.angle = t.value),
      depth: (t) => this.deep(t.value),
      thread: (t) => this.threaded(t.name),
      tolerance: (t) => void (this.tolerance = { plus: t.plus, minus: t.minus }),
      fit: (t) => void (this.fit = t.name),
      bare: (t) => this.bare(t.value, next),
    };
    return (takes[token.kind] as ((t: Token) => boolean | void) | undefined)?.(token) !== false;
  }

  /** How the hole begins; undefined where it says half of that alone. */
  head(unit: SheetUnit): HoleHead | null | undefined {
    const { kind, diameter, depth, angle } = this.wide;
    if (kind === null) return null;
    if (!(diameter > 0)) return undefined;
    if (kind === 'sink')
      return { kind: 'countersink', diameter, angle: angle || (USUAL_SINK[unit] * Math.PI) / 180 };
    return depth > 0 ? { kind: 'counterbore', diameter, depth } : undefined;
  }
}

/**
 * Reads a note at a hole, such as "4x Ø9 THRU ⌴ Ø15 ↧ 8", "2X 1/4-20 UNC-2B ↧ .75" or "M8 16 deep". Bare figures are in the unit of the sheet. Null for
 * what is no such note: a plain length, a radius, words. A thread that no table here knows comes as such, with no diameter.
 */
export function readCallout(input: string, unit: SheetUnit): HoleCallout | null {
  const text = input.replace(/[\s\u2009\u202f\u00a0]+/g, ' ').trim();
  if (text === '' || text.length > LONGEST) return null;
  const tokens = tokensOf(text, unit),
    read = new Reading();
  if (!tokens?.every((token, i) => read.take(token, tokens[i + 1]))) return null;
  const head = read.head(unit),
    { count, thread, depth, through, tolerance, fit, typical } = read,
    diameter = read.diameter || (thread?.known?.drill ?? 0);
  if (head === undefined || count < 1) return null;
  const isHole = thread !== null && thread.known === null ? true : diameter > 0 && Number.isFinite(diameter);
  return isHole ? { text, count, diameter, depth, through, head, thread, tolerance, fit, typical } : null;
}
