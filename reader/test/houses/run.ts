import type { Linework } from '@calque/core/linework';
import { proposalsOn, type Proposals } from '@calque/core/proposals';
import { readFile } from '../../src/read-file.ts';
import { byLibrary } from '../hands/draw/producers.ts';
import type { Place } from './house.ts';
import { stairOf } from './office.ts';
import { scored, type Score } from './score.ts';
import { houseSheet, type HouseSheet } from './sheets.ts';

export async function lineworkOf(bytes: Uint8Array): Promise<Linework> {
  let out: Linework | null = null;
  await readFile(
    bytes,
    { maxMegabytes: 640, page: 1 },
    () => {},
    (p) => {
      out = p.linework;
    },
  );
  return out!;
}

const NO_SWING = ['folding', 'sliding', 'pocket'];

/** A sheet drawn, written as a PDF, read, and looked at; scored against the house that it draws. */
export async function scoreOf(
  sheet: HouseSheet,
): Promise<{ score: Score; proposed: Proposals; milliseconds: number }> {
  const { house, hand, at, scale } = houseSheet(sheet),
    linework = await lineworkOf(await byLibrary()([hand])),
    began = performance.now(),
    proposed = proposalsOn(linework, sheet.office.factor),
    milliseconds = performance.now() - began,
    [ox, oy] = at(0, 0),
    turn = sheet.office.turned ?? 0,
    [c, s] = [Math.cos(turn), Math.sin(turn)];
  const back = ([x, y]: readonly [number, number]): Place => {
    const [dx, dy] = [(x - ox) / scale, (y - oy) / scale];
    return [dx * c + dy * s, -dx * s + dy * c];
  };
  const stair = sheet.office.stair ? stairOf(house) : null;
  const score = scored(house, proposed, back, stair);
  // Leaves that slide or fold are hung nowhere.
  if (NO_SWING.includes(sheet.strange?.doors ?? '')) score.swings = { doors: 0, right: 0 };
  return { score, proposed, milliseconds };
}
