import { describe, expect, it } from 'vitest';
import { applyOrThrow, modelOf, lookOf, type Model, type Underlay } from '@calque/core/model';
import { duplicateOf, moveInStack, slipsOf, stepInStack, TRACE } from '../src/shell/stack/stack-order.ts';
import { underlay } from './given-table.ts';

const model = modelOf([
  underlay('a', { order: 1 }),
  underlay('b', { order: 2 }),
  underlay('c', { order: 3 }),
  underlay('other', { planeId: 'upper', order: 9 }),
]);
const after = (m: Model, change: ReturnType<typeof moveInStack>) => (change ? applyOrThrow(m, change) : m);
const u = (m: Model, id: string) => m.get(id) as Underlay;

describe('the stack', () => {
  it('lies with the top first, the trace above all sheets', () =>
    expect(slipsOf(model, 'ground')).toEqual([TRACE, 'c', 'b', 'a']));
  it('a slip dropped on another lies just above it, also upwards and downwards', () => {
    expect(slipsOf(after(model, moveInStack(model, 'ground', 'a', 'c')), 'ground')).toEqual([
      TRACE,
      'a',
      'c',
      'b',
    ]);
    expect(slipsOf(after(model, moveInStack(model, 'ground', 'c', 'a')), 'ground')).toEqual([
      TRACE,
      'b',
      'c',
      'a',
    ]);
  });
  it('dropped on the trace it comes in front of it, and goes behind it again', () => {
    const inFront = after(model, moveInStack(model, 'ground', 'b', TRACE));
    expect(slipsOf(inFront, 'ground')).toEqual(['b', TRACE, 'c', 'a']);
    expect(lookOf(u(inFront, 'b')).inFront).toBe(true);
    expect(slipsOf(after(inFront, moveInStack(inFront, 'ground', 'b', 'a')), 'ground')).toEqual([
      TRACE,
      'c',
      'b',
      'a',
    ]);
  });
  it('goes a place at a time, to the ends and no further', () => {
    let m = after(model, stepInStack(model, u(model, 'a'), 1));
    expect(slipsOf(m, 'ground')).toEqual([TRACE, 'c', 'a', 'b']);
    for (let i = 0; i < 5; i++) m = after(m, stepInStack(m, u(m, 'a'), 1));
    expect(slipsOf(m, 'ground')).toEqual(['a', TRACE, 'c', 'b']);
    expect(stepInStack(m, u(m, 'a'), 1)).toBeNull();
    expect(stepInStack(model, u(model, 'a'), -1)).toBeNull();
  });
  it('leaves other storeys alone and does nothing for nothing', () => {
    expect(u(after(model, moveInStack(model, 'ground', 'a', 'c')), 'other').order).toBe(9);
    expect(moveInStack(model, 'ground', 'a', 'a')).toBeNull();
    expect(moveInStack(model, 'ground', 'a', 'nowhere')).toBeNull();
  });
  it('a duplicate lies on top under a name of its own, unlocked', () => {
    const locked = modelOf([
      underlay('a', { locked: true, name: 'Plan' }),
      underlay('x', { name: 'Plan, copy', order: 4 }),
    ]);
    expect(duplicateOf(locked, u(locked, 'a'))).toMatchObject({
      name: 'Plan, copy 2',
      order: 5,
      locked: false,
      fileId: 'f',
    });
  });
});
