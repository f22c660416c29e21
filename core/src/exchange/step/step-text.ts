/** Another instance of the file. */
export class Ref {
  constructor(readonly number: number) {}
}
/** A name of an enumeration. */
export class Enum {
  constructor(readonly name: string) {}
}
/** A whole number: figures are real numbers unless they say so. */
export class Int {
  constructor(readonly value: number) {}
}
/** A value that says of what type it is, where several may stand. */
export class Typed {
  constructor(
    readonly type: string,
    readonly value: StepValue,
  ) {}
}
/** What a derived attribute is written as. */
export const DERIVED = Symbol('derived');

export type StepValue =
  null | boolean | number | string | Ref | Enum | Int | Typed | typeof DERIVED | readonly StepValue[];

/** A real number as ISO 10303-21 wants it: always with a point. */
export function stepReal(value: number): string {
  if (!Number.isFinite(value)) throw new Error(`Cannot write ${value}: only finite numbers go into a model.`);
  if (value === 0) return '0.';
  const text = String(value).toUpperCase();
  if (text.includes('.')) return text;
  return text.includes('E') ? text.replace('E', '.E') : `${text}.`;
}

/** A text as ISO 10303-21 wants it: what is not printable ASCII in the \X2\ form, in UTF-16 units; apostrophes and backslashes doubled. */
export function stepString(text: string): string {
  let out = '',
    wide = '';
  const end = () => {
    if (wide !== '') out += `\\X2\\${wide}\\X0\\`;
    wide = '';
  };
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code >= 0x20 && code <= 0x7e) {
      end();
      const letter = text[i];
      out += letter === "'" || letter === '\\' ? letter + letter : letter;
    } else wide += code.toString(16).toUpperCase().padStart(4, '0');
  }
  end();
  return `'${out}'`;
}

function written(value: StepValue): string {
  if (value === null) return '$';
  if (value === DERIVED) return '*';
  if (typeof value === 'boolean') return value ? '.T.' : '.F.';
  if (typeof value === 'number') return stepReal(value);
  if (typeof value === 'string') return stepString(value);
  if (value instanceof Ref) return `#${value.number}`;
  if (value instanceof Enum) return `.${value.name}.`;
  if (value instanceof Int) return String(Math.round(value.value));
  if (value instanceof Typed) return `${value.type}(${written(value.value)})`;
  return `(${(value as readonly StepValue[]).map(written).join(',')})`;
}

/** The instances of a STEP file, numbered as they are added; equal ones that are shared are written once. */
export class StepFile {
  private readonly lines: string[] = [];
  private readonly shared = new Map<string, Ref>();

  add(type: string, ...values: StepValue[]): Ref {
    const ref = new Ref(this.lines.length + 1);
    this.lines.push(`#${ref.number}=${type}(${values.map(written).join(',')});`);
    return ref;
  }

  /** An instance of several types at once, as the standard writes what inherits from many. */
  addComplex(...parts: readonly (readonly [type: string, ...values: StepValue[]])[]): Ref {
    const ref = new Ref(this.lines.length + 1),
      text = parts.map(([type, ...values]) => `${type}(${values.map(written).join(',')})`).join(' ');
    this.lines.push(`#${ref.number}=(${text});`);
    return ref;
  }

  /** For what has no identity of its own: points, directions, units. */
  share(type: string, ...values: StepValue[]): Ref {
    const key = `${type}(${values.map(written).join(',')})`;
    let ref = this.shared.get(key);
    if (!ref) this.shared.set(key, (ref = this.add(type, ...values)));
    return ref;
  }

  text(header: readonly string[]): string {
    return [
      'ISO-10303-21;',
      'HEADER;',
      ...header,
      'ENDSEC;',
      'DATA;',
      ...this.lines,
      'ENDSEC;',
      'END-ISO-10303-21;',
      '',
    ].join('\n');
  }
}
