import { useLately } from '@/commands/lately';
import { useFloating } from '@/commands/floating';
import { useBuildingSizes } from '@/drawing/building-sizes';
import { useTraceState } from '@/drawing/state';
import { useNextBolts } from '@/kinds/bolts/next-bolts';
import { useNextPlate } from '@/kinds/plate/next-plate';
import { useNextMember } from '@/kinds/member/next-member';
import { useOpeningFigures } from '@/kinds/wall/opening-figures';
import { useLastMeasured } from '@/project/last-measured';
import { useCalibrateState } from '@/stages/calibrate/state';
import { useStraighten } from '@/stages/calibrate/straighten';
import { useGrade } from '@/stages/check/grade/grade';
import { useMeasure } from '@/stages/check/measure';
import { useConvert } from '@/stages/trace/convert/convert';
import { useOffers } from '@/stages/trace/seen/seen';
import { useNudge } from '@/table/nudge';

interface Kept {
  getInitialState(): object;
  getState(): object;
  setState(state: object): void;
}
/** What tools remember beside the drawing. */
const REMEMBERED: readonly Kept[] = [
  useLately,
  useFloating,
  useTraceState,
  useLastMeasured,
  useCalibrateState,
  useStraighten,
  useMeasure,
  useGrade,
  useOffers,
  useConvert,
  useNudge,
  useOpeningFigures,
  useNextMember,
  useNextPlate,
  useNextBolts,
  useBuildingSizes,
] as unknown as readonly Kept[];

/** Begins with what tools remember at first; what is returned puts all back as it was. */
export function asItWas(): () => void {
  const before = REMEMBERED.map((store) => store.getState());
  for (const store of REMEMBERED) store.setState(store.getInitialState());
  return () => REMEMBERED.forEach((store, i) => store.setState(before[i]));
}
