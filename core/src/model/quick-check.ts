import type * as yup from 'yup';

/** What yup keeps of a test, and a schema by its parts. */
interface Options {
  test: (this: Context, value: unknown, context: Context) => unknown;
  skipAbsent?: boolean;
  params?: Record<string, unknown>;
}
interface Test {
  OPTIONS?: Options;
}
interface Context {
  schema: Inside;
  parent: unknown;
  path: string;
  options: object;
  originalValue: unknown;
  createError(): false;
  resolve(value: unknown): unknown;
}
interface Inside {
  type?: string;
  tests?: Test[];
  internalTests?: Record<string, Test | undefined>;
  fields?: Record<string, unknown>;
  innerType?: unknown;
}

const KNOWN: ReadonlySet<string> = new Set(['string', 'number', 'boolean', 'mixed', 'object', 'array']);
const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * A fast answer for a schema in strict mode: true means that yup would find no fault. False means that yup is to be
 * asked, for its words or because the schema holds what is not known here. It runs yup's own tests without what yup
 * builds around each (promises, paths, messages), which takes most of its time.
 */
export function quickCheck(schema: yup.Schema): (value: unknown) => boolean {
  return checkOf(schema as unknown as Inside) ?? (() => false);
}

function checkOf(schema: Inside): ((value: unknown, parent?: unknown) => boolean) | null {
  if (!KNOWN.has(schema.type ?? '') || !Array.isArray(schema.tests) || !schema.internalTests) return null;
  const options = [...Object.values(schema.internalTests), ...schema.tests].flatMap((t) =>
    t ? [t.OPTIONS] : [],
  );
  // References to other fields are resolved by yup alone.
  if (options.some((o) => !o || Object.values(o.params ?? {}).some((p) => isPlain(p) && '__isYupRef' in p)))
    return null;
  const tests = options as Options[];
  const own = (value: unknown, parent: unknown): boolean => {
    const context: Context = {
      schema,
      parent,
      path: '',
      options: {},
      originalValue: value,
      createError: () => false,
      resolve: (v) => v,
    };
    return tests.every(
      (o) =>
        (o.skipAbsent && (value === undefined || value === null)) ||
        o.test.call(context, value, context) === true,
    );
  };
  if (schema.type === 'object') {
    const fields = Object.entries(schema.fields ?? {}).map(
      ([key, field]) => [key, checkOf(field as Inside)] as const,
    );
    if (fields.some(([, check]) => check === null)) return null;
    return (value, parent) =>
      own(value, parent) && (!isPlain(value) || fields.every(([key, check]) => check!(value[key], value)));
  }
  if (schema.type === 'array' && schema.innerType) {
    const inner = checkOf(schema.innerType as Inside);
    return (
      inner &&
      ((value, parent) =>
        own(value, parent) && (!Array.isArray(value) || value.every((v) => inner(v, value))))
    );
  }
  return own;
}
