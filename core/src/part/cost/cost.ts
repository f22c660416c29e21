import type { Part } from '../../model/index.ts';
import { stockMaterial } from '../standards/index.ts';

/** A person's own rates; money in whichever currency they think in. */
export interface Rates {
  /** Money to a kilogram of stock. */
  kilogram: number;
  /** Money to an hour of a machine and whoever runs it. */
  hour: number;
  /** Minutes to set up once, for all pieces. */
  setUp: number;
  /** So many set-ups. */
  setUps: number;
  /** Cubic centimetres that are taken away in a minute. */
  removal: number;
  /** Minutes to a hole, and more to a thread. */
  hole: number;
  thread: number;
  /** Money to a piece for deburring, painting and so on. */
  finishing: number;
  /** Stock is larger than the part by so much all round, millimetres. */
  allowance: number;
}
export type RateName = keyof Rates;
export const RATE_WORDS: Readonly<Record<RateName, string>> = {
  kilogram: 'Stock, to a kilogram',
  hour: 'Machine, to an hour',
  setUp: 'Minutes to set up once',
  setUps: 'Set-ups',
  removal: 'cm³ taken away in a minute',
  hole: 'Minutes to a hole',
  thread: 'Minutes more to a thread',
  finishing: 'Finishing, to a piece',
  allowance: 'Stock larger all round, mm',
};
const FIRST: Rates = {
  kilogram: 2,
  hour: 60,
  setUp: 20,
  setUps: 1,
  removal: 8,
  hole: 0.5,
  thread: 0.7,
  finishing: 2,
  allowance: 1,
};

/** Rates of a part: a person's own, else first guesses that are marked as such. */
export function ratesOf(part: Pick<Part, 'rates' | 'material'>): { rates: Rates; guessed: RateName[] } {
  const rates = { ...FIRST, kilogram: stockMaterial(part.material)?.price ?? FIRST.kilogram },
    guessed: RateName[] = [];
  for (const name of Object.keys(rates) as RateName[]) {
    const own = part.rates?.[name];
    if (own === undefined) guessed.push(name);
    else rates[name] = own;
  }
  return { rates, guessed };
}

export interface CostLine {
  what: 'stock' | 'set-up' | 'removal' | 'holes' | 'finishing';
  /** How it comes about, in words. */
  words: string;
  /** Money, to a piece. */
  amount: number;
}
/** What a part may cost: an estimate from rates, and nothing more. */
export interface Cost {
  lines: CostLine[];
  /** To a piece, and for all pieces. */
  each: number;
  all: number;
  /** Rates that nobody has said yet. */
  guessed: RateName[];
}

const shown = (v: number) => String(Number(v.toFixed(2)));

/** What a piece may cost: stock that holds it, set-ups shared by all pieces, time for what is taken away and for holes, finishing. */
export function estimatedCost(
  part: Pick<Part, 'rates' | 'material' | 'density' | 'pieces'>,
  { volume, box, holes, threads }: { volume: number; box: readonly number[]; holes: number; threads: number },
): Cost {
  const { rates, guessed } = ratesOf(part),
    sides = [0, 1, 2].map((i) => box[i + 3] - box[i] + 2 * rates.allowance),
    stock = sides[0] * sides[1] * sides[2],
    mass = (stock * part.density) / 1e9,
    away = Math.max(0, stock - volume) / 1000,
    minutes = (m: number) => (m * rates.hour) / 60,
    drilling = holes * rates.hole + threads * rates.thread;
  const lines: CostLine[] = [
    {
      what: 'stock',
      words: `${sides.map((v) => shown(v)).join(' x ')} mm, ${shown(mass)} kg`,
      amount: mass * rates.kilogram,
    },
    {
      what: 'set-up',
      words: `${rates.setUps} x ${shown(rates.setUp)} min for ${part.pieces} ${part.pieces === 1 ? 'piece' : 'pieces'}`,
      amount: minutes(rates.setUps * rates.setUp) / part.pieces,
    },
    {
      what: 'removal',
      words: `${shown(away)} cm³ at ${shown(rates.removal)} cm³ a minute`,
      amount: rates.removal > 0 ? minutes(away / rates.removal) : 0,
    },
    {
      what: 'holes',
      words: `${holes} holes${threads > 0 ? `, ${threads} threads` : ''}, ${shown(drilling)} min`,
      amount: minutes(drilling),
    },
    { what: 'finishing', words: 'to a piece', amount: rates.finishing },
  ];
  const each = lines.reduce((sum, l) => sum + l.amount, 0);
  return { lines, each, all: each * part.pieces, guessed };
}

/** The same by a solid as it is shown: see shownSolid of @calque/core/forming. */
export const costOf = (
  part: Part,
  solid: {
    measures: { volume: number; box: readonly number[] };
    holes: readonly unknown[];
    threads: readonly (string | null)[];
  },
): Cost =>
  estimatedCost(part, {
    volume: solid.measures.volume,
    box: solid.measures.box,
    holes: solid.holes.length,
    threads: solid.threads.filter((t) => t !== null).length,
  });
