import { plainNumber } from '../drawing.ts';

/** A group code with its value. */
export type Pair = [code: number, value: string | number];

/** Handles are hexadecimal, unique in the file, and start behind the fixed ones below. */
export class Handles {
  private next = 0x100;
  take(): string {
    return (this.next++).toString(16).toUpperCase();
  }
}

/** Handles of what every file has. */
export const H = {
  vport: '8',
  ltype: '5',
  layer: '2',
  style: '3',
  view: '6',
  ucs: '7',
  appid: '9',
  dimstyle: 'A',
  blockRecord: '1',
  modelRecord: '1F',
  paperRecord: '1B',
  dictionary: 'C',
  groups: 'D',
  layerZero: '10',
  byBlock: '14',
  byLayer: '15',
  continuous: '16',
  standardStyle: '11',
  appidAcad: '12',
  standardDim: '27',
  modelBlock: '20',
  modelEnd: '21',
  paperBlock: '1C',
  paperEnd: '1D',
  activePort: '29',
} as const;

export const section = (name: string, body: Pair[]): Pair[] => [
  [0, 'SECTION'],
  [2, name],
  ...body,
  [0, 'ENDSEC'],
];

/**
 * Layer names as this version allows them: plain letters, no control characters, none of the reserved
 * signs. Two names that become alike are told apart by a number.
 */
export function safeNames(names: readonly string[]): Map<string, string> {
  const taken = new Set(['0']);
  return new Map(
    names.map((name) => {
      const plain = name
        .normalize('NFD')
        .replace(/[\u0300-\u036f]/g, '')
        .replace(/[^\x20-\x7e]|[<>/\\":;?*|=`,]/g, '_')
        .trim()
        .slice(0, 240);
      const base = plain === '' ? 'unnamed' : plain;
      let safe = base;
      for (let n = 2; taken.has(safe.toLowerCase()) && name !== '0'; n++) safe = `${base} ${n}`;
      taken.add(safe.toLowerCase());
      return [name, safe];
    }),
  );
}

/** Characters outside ASCII are written as \U+XXXX, which every reader of this version knows. */
export function encodeText(text: string): string {
  return text
    .replace(/[\u0000-\u001f]/g, ' ')
    .replace(/[^\x20-\x7e]/g, (c) => `\\U+${c.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}`);
}

/** A real number always has a point in DXF. */
export function num(value: number): string {
  const text = plainNumber(value);
  return text.includes('.') ? text : `${text}.0`;
}
