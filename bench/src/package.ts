import { ours } from './ours.ts';

const IN_A_STEP = 2000,
  IN_A_REQUEST = 100;

export interface PackageTimes {
  megabytes: number;
  /** Seconds: the package made and fetched, and opened as a new project. */
  made: number;
  opened: number;
}

/** A project of so many elements and then so many steps, as a package: how long it takes to make, and to open. */
export async function packageTimes(url: string, elements: number, steps: number): Promise<PackageTimes> {
  const asked = async (path: string, body: object): Promise<Response> => {
    const answer = await fetch(`${url}${path}`, {
      method: 'POST',
      headers: { ...ours(url), 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return answer;
  };
  const { id } = (await (
    await asked('/api/projects', { name: 'Package', units: 'mm', precision: 0 })
  ).json()) as { id: string };
  const send = async (changes: readonly object[]) => {
    for (let at = 0; at < changes.length; at += IN_A_REQUEST)
      await asked(`/api/projects/${id}/changes`, {
        clientId: 'bench',
        steps: changes.slice(at, at + IN_A_REQUEST).map((change) => ({
          id: crypto.randomUUID(),
          label: 'Bench',
          kind: 'do',
          of: null,
          change,
        })),
      });
  };
  const source = { underlayId: null, ends: 'typed', thickness: 'typed' };
  const line = (i: number) => ({
    id: `e${i}`,
    type: 'line',
    planeId: 'ground',
    source,
    from: [(i % 400) * 250, Math.floor(i / 400) * 250],
    to: [(i % 400) * 250 + 200, Math.floor(i / 400) * 250 + (i % 9) * 20],
  });
  for (let at = 0; at < elements; at += IN_A_STEP)
    await send([
      {
        type: 'group',
        changes: Array.from({ length: Math.min(IN_A_STEP, elements - at) }, (_, k) => ({
          type: 'add',
          entity: line(at + k),
        })),
      },
    ]);
  await send(
    Array.from({ length: steps }, (_, i) => {
      const { id: moved, from, to } = line((i * 7919) % elements);
      return { type: 'set', id: moved, before: { to }, after: { to: [from[0] + 100, from[1] + i] } };
    }),
  );
  const began = performance.now();
  const packed = new Uint8Array(await (await fetch(`${url}/api/projects/${id}/package`)).arrayBuffer());
  const made = performance.now();
  const answer = await fetch(`${url}/api/packages`, { method: 'POST', headers: ours(url), body: packed });
  if (!answer.ok) throw new Error(await answer.text());
  return {
    megabytes: packed.length / 1e6,
    made: (made - began) / 1000,
    opened: (performance.now() - made) / 1000,
  };
}
