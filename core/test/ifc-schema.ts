import { getAllAttributesForEntity, getInheritanceChainForEntity, SCHEMA_REGISTRY } from '@ifc-lite/parser';

/** A value as the test reads it: by its own few rules, knowing nothing of the writer. */
export type Read = string | { type: string; args: Read[] } | Read[];

/** Reads what stands between parentheses, from one place on. */
function readArgs(text: string, from: number): { args: Read[]; end: number } {
  const args: Read[] = [];
  let at = from;
  for (;;) {
    if (text[at] === ')') return { args, end: at + 1 };
    if (text[at] === ',') {
      at++;
      continue;
    }
    const letters = /^[A-Z0-9]+(?=\()/.exec(text.slice(at, at + 60))?.[0];
    if (letters) {
      const inner = readArgs(text, at + letters.length + 1);
      args.push({ type: letters, args: inner.args });
      at = inner.end;
    } else if (text[at] === '(') {
      const inner = readArgs(text, at + 1);
      args.push(inner.args);
      at = inner.end;
    } else if (text[at] === "'") {
      let end = at + 1;
      while (text[end] !== "'" || text[end + 1] === "'") end += text[end] === "'" ? 2 : 1;
      args.push(text.slice(at, end + 1));
      at = end + 1;
    } else {
      const plain = /^[^,)]+/.exec(text.slice(at))![0];
      args.push(plain);
      at += plain.length;
    }
  }
}
export function instances(text: string): Map<string, { type: string; args: Read[] }> {
  const out = new Map<string, { type: string; args: Read[] }>();
  for (const line of text.split('\n')) {
    const found = /^#(\d+)=([A-Z0-9]+)\(/.exec(line);
    if (found) out.set(`#${found[1]}`, { type: found[2], args: readArgs(line, found[0].length).args });
  }
  return out;
}
export const names = new Map(Object.keys(SCHEMA_REGISTRY.entities).map((n) => [n.toUpperCase(), n]));

/** Every type that an attribute may hold: through selects, down to entities and plain types. */
function holds(type: string, value: Read, all: ReturnType<typeof instances>): boolean {
  const select = SCHEMA_REGISTRY.selects[type] as string[] | { types: string[] } | undefined;
  if (select) return (Array.isArray(select) ? select : select.types).some((t) => holds(t, value, all));
  if (SCHEMA_REGISTRY.entities[type]) {
    if (typeof value !== 'string' || !value.startsWith('#')) return false;
    const target = names.get(all.get(value)?.type ?? '');
    return target !== undefined && getInheritanceChainForEntity(target).includes(type);
  }
  const enumeration = SCHEMA_REGISTRY.enums[type] as string[] | { values: string[] } | undefined;
  if (enumeration) {
    const values = Array.isArray(enumeration) ? enumeration : enumeration.values;
    return typeof value === 'string' && values.includes(value.slice(1, -1)) && /^\..*\.$/.test(value);
  }
  if (typeof value === 'object' && !Array.isArray(value))
    return value.type === type.toUpperCase() && value.args.every((v) => holds(type, v, all));
  if (Array.isArray(value)) return value.every((v) => holds(type, v, all));
  let plain: unknown = SCHEMA_REGISTRY.types[type];
  for (let i = 0; i < 5 && typeof plain === 'string' && SCHEMA_REGISTRY.types[plain]; i++)
    plain = SCHEMA_REGISTRY.types[plain];
  const kind = String(typeof plain === 'object' && plain ? JSON.stringify(plain) : (plain ?? type));
  if (/STRING/i.test(kind)) return value.startsWith("'");
  if (/BOOLEAN|LOGICAL/i.test(kind)) return /^\.[TFU]\.$/.test(value);
  if (/INTEGER/i.test(kind)) return /^-?\d+$/.test(value);
  if (/NUMBER/i.test(kind)) return /^-?\d+(\.\d*(E[-+]?\d+)?)?$/.test(value);
  if (/REAL/i.test(kind)) return /^-?\d+\.\d*(E[-+]?\d+)?$/.test(value);
  return true;
}

/** What of a file the schema does not know, or has otherwise. */
export function wrongIn(all: ReturnType<typeof instances>): string[] {
  const wrong: string[] = [];
  for (const [ref, { type, args }] of all) {
    const name = names.get(type);
    if (!name) {
      wrong.push(`${ref} ${type} is no entity`);
      continue;
    }
    const attributes = getAllAttributesForEntity(name);
    if (attributes.length !== args.length)
      wrong.push(`${ref} ${type} has ${args.length} of ${attributes.length}`);
    attributes.forEach((a, i) => {
      const value = args[i];
      if (value === '*' || value === undefined) return;
      if (value === '$') {
        if (!a.optional) wrong.push(`${ref} ${type}.${a.name} may not be missing`);
        return;
      }
      const list = a.isArray || a.isList || a.isSet;
      const ok = list
        ? Array.isArray(value) && value.flat(3).every((v) => holds(a.type.replace(/^.* /, ''), v, all))
        : holds(a.type, value, all);
      if (!ok) wrong.push(`${ref} ${type}.${a.name} (${a.type}) is ${JSON.stringify(value).slice(0, 80)}`);
    });
  }
  return wrong;
}
