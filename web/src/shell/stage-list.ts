import { get, ofType, type Model, type ScaleDoubt } from '@calque/core/model';
import { doubtOf } from '@/project/doubts';
import { checked, isFitted } from '@/project/known';
import { count, traceTally, traceWords } from '@/project/trace-words';

import type { StageId } from '@/commands/command';

export interface StageHead {
  id: StageId;
  name: string;
  key: string;
  state: string;
}

/** The five stages, each with its state in words. */
export function stageHeads(model: Model, doubts: Readonly<Record<string, ScaleDoubt>> = {}): StageHead[] {
  const underlays = ofType(model, 'underlay');
  const scaled = underlays.filter((u) => u.scaleState === 'calibrated' && !doubtOf(u, doubts)).length;
  const traced = traceWords(traceTally(model));
  // The one dimension that a sheet was scaled by agrees with itself: that proves nothing.
  const known = ofType(model, 'check');
  const evidence = known.filter(
    (c) => !isFitted(c) || known.some((o) => o !== c && o.underlayId === c.underlayId && isFitted(o)),
  );
  const differing = evidence.filter((c) => {
    const u = get(model, 'underlay', c.underlayId);
    return u && !checked(u, c).agrees;
  }).length;
  const checks = evidence.length;
  return [
    {
      id: 'sheets',
      name: 'Sheets',
      key: '1',
      state: underlays.length === 0 ? 'none laid down' : `${underlays.length} laid down`,
    },
    {
      id: 'calibrate',
      name: 'Calibrate',
      key: '2',
      state: underlays.length === 0 ? 'nothing to scale' : `${scaled} of ${underlays.length} to scale`,
    },
    { id: 'trace', name: 'Trace', key: '3', state: traced || 'nothing traced' },
    {
      id: 'check',
      name: 'Check',
      key: '4',
      state:
        differing > 0
          ? `${count(differing, 'differs', 'differ')}`
          : checks > 0
            ? `${count(checks, 'agrees', 'agree')}`
            : 'nothing checked',
    },
    { id: 'deliver', name: 'Deliver', key: '5', state: traced ? 'ready' : 'nothing yet' },
  ];
}
