/** Paths belong to what they were made of and go with it. */
export function kept<K extends object, V>(make: (of: K) => V): (of: K) => V {
  const known = new WeakMap<K, V>();
  return (of) => {
    let value = known.get(of);
    if (value === undefined) known.set(of, (value = make(of)));
    return value;
  };
}
