'use client';

import { type Underlay, type ScaleDoubt } from '@calque/core/model';
import { doubtOf, useDoubts } from '@/project/doubts';
import { CONTENT_WORDS, scaleWords } from '@/project/views';
import type { FileInfo } from '@/project/wire';
import { Slip, type DragOver } from './slip';
import { UnderlayControls } from './underlay-controls';

function stateOf(
  u: Underlay,
  file: FileInfo | null,
  imperial: boolean,
  doubt: ScaleDoubt | null,
  current: boolean,
): { words: string; colour: string } {
  const sheet = file?.sheets.find((s) => s.page === u.page);
  if (!file) return { words: 'its file is missing', colour: 'differs' };
  if (!sheet) {
    if (
      file.status === 'failed' ||
      file.status === 'password' ||
      file.status === 'units' ||
      file.status === 'cancelled'
    )
      return { words: `cannot be read: ${file.message ?? file.status}`, colour: 'differs' };
    return { words: 'being read …', colour: 'text.secondary' };
  }
  const parts = [scaleWords(u, imperial, doubt)];
  if (sheet.content !== 'vector') parts.push(CONTENT_WORDS[sheet.content]);
  if (u.locked) parts.push('locked');
  if (!u.snap) parts.push('snap off');
  return {
    words: parts.join(', '),
    // What needs doing is told in colour where somebody works on it; elsewhere calmly.
    colour: doubt
      ? 'differs'
      : u.scaleState === 'calibrated' || u.scaleState === 'own'
        ? 'known'
        : u.scaleState === 'stated'
          ? 'assumed'
          : current
            ? 'now'
            : 'text.secondary',
  };
}

export function UnderlaySlip({
  underlay: u,
  file,
  current,
  marked,
  opens,
  shift,
  imperial,
  drag,
  onPress,
}: {
  underlay: Underlay;
  file: FileInfo | null;
  current: boolean;
  /** Chosen with others. */ marked: boolean;
  /** The current one shows what can be done with it. */ opens: boolean;
  shift: number;
  imperial: boolean;
  drag: DragOver;
  onPress(event: React.MouseEvent): void;
}) {
  const { words, colour } = stateOf(
    u,
    file,
    imperial,
    useDoubts((s) => doubtOf(u, s)),
    current,
  );
  const aside = !u.visible ? 'hidden' : u.fade > 0 ? `${Math.round((1 - u.fade) * 100)} %` : '';
  return (
    <>
      <Slip
        id={u.id}
        drag={drag}
        title={u.name}
        aside={aside}
        state={words}
        colour={colour}
        shift={shift}
        current={current}
        marked={marked}
        onClick={onPress}
      />
      {current && opens && <UnderlayControls underlay={u} shift={shift} />}
    </>
  );
}
