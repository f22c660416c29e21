/** What an atom of an expression is: a length in millimetres, or a bare number whose unit the project gives if it ends up a length. */
export type Value = { kind: 'length'; mm: number } | { kind: 'bare'; number: number };

/** A number with an optional fraction and unit, or feet with inches: what stands between operators. */
const ATOM =
  /^(?:\d+(?:\.\d+)?\s*(?:'|ft|feet)\s*-?\s*\d+(?:\.\d+)?(?:\s+\d+\/\d+)?\s*(?:"|in)|\d+\/\d+\s*(?:"|in)|(?:\d[\d.,]*\s+\d+\/\d+|\d[\d.,]*|[.,]\d+)\s*(?:mm|cm|km|m|inch(?:es)?|in|feet|foot|ft|yards?|yd|'|")?)/i;
const DEEPEST = 20;

/**
 * Simple arithmetic with lengths: + - * / and brackets, as 3*1200+50 or 2*(11'-4" + 150 mm)/3. A bare number beside
 * a length in a sum is in the project's unit; lengths are neither multiplied by one another nor divided by. Null where
 * the text is no such expression. `atom` reads what stands between the operators; `bare` turns a bare number into millimetres.
 */
export function evaluate(
  text: string,
  atom: (text: string) => Value | null,
  bare: (n: number) => number,
): Value | null {
  let at = 0;
  const skip = () => {
    while (text[at] === ' ') at++;
  };
  const mm = (v: Value) => (v.kind === 'length' ? v.mm : bare(v.number));

  const sum = (depth: number): Value | null => {
    let left = product(depth);
    for (;;) {
      skip();
      const sign = text[at] === '+' ? 1 : text[at] === '-' ? -1 : 0;
      if (left === null || sign === 0) return left;
      at++;
      const right = product(depth);
      if (right === null) return null;
      left =
        left.kind === 'bare' && right.kind === 'bare'
          ? { kind: 'bare', number: left.number + sign * right.number }
          : { kind: 'length', mm: mm(left) + sign * mm(right) };
    }
  };
  const product = (depth: number): Value | null => {
    let left = factor(depth);
    for (;;) {
      skip();
      const operator = text[at];
      if (left === null || (operator !== '*' && operator !== '×' && operator !== '/')) return left;
      at++;
      const right = factor(depth);
      if (right === null) return null;
      left = operator === '/' ? divided(left, right) : multiplied(left, right);
    }
  };
  const factor = (depth: number): Value | null => {
    skip();
    if (depth > DEEPEST) return null;
    if (text[at] === '-' || text[at] === '+') {
      const sign = text[at++] === '-' ? -1 : 1;
      const value = factor(depth + 1);
      return (
        value &&
        (value.kind === 'length'
          ? { kind: 'length', mm: sign * value.mm }
          : { kind: 'bare', number: sign * value.number })
      );
    }
    if (text[at] === '(') {
      at++;
      const value = sum(depth + 1);
      skip();
      if (text[at++] !== ')') return null;
      return value;
    }
    const found = ATOM.exec(text.slice(at));
    if (!found) return null;
    at += found[0].length;
    return atom(found[0].trim());
  };

  const value = sum(0);
  skip();
  return at === text.length ? value : null;
}

function multiplied(a: Value, b: Value): Value | null {
  if (a.kind === 'bare' && b.kind === 'bare') return { kind: 'bare', number: a.number * b.number };
  if (a.kind === 'length' && b.kind === 'length') return null;
  return {
    kind: 'length',
    mm: (a.kind === 'length' ? a.mm : a.number) * (b.kind === 'length' ? b.mm : b.number),
  };
}

function divided(a: Value, b: Value): Value | null {
  if (b.kind === 'length' || b.number === 0) return null;
  return a.kind === 'bare'
    ? { kind: 'bare', number: a.number / b.number }
    : { kind: 'length', mm: a.mm / b.number };
}
