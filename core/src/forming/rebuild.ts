import type { ModelPoint } from '../geometry/index.ts';
import type { Doing } from '../model/index.ts';
import type { Recipe, Step, StepForm } from '../part/index.ts';
import { partsOf, type Body } from './body.ts';
import { combined } from './combine.ts';
import { StepFault } from './fault.ts';
import { kernelSays } from './kernel.ts';
import { movedBody } from './moved.ts';
import { edgesWorked, shelled } from './steps/edge-steps.ts';
import { givenTool } from './steps/given.ts';
import { extrudeTool } from './steps/extrude.ts';
import { holeTools, slotTools } from './steps/hole.ts';
import { revolveTool } from './steps/revolve.ts';
import { ribTool } from './steps/rib.ts';
import type { Context } from './steps/context.ts';

/** What became of a step. */
export interface StepState {
  id: string;
  state: 'made' | 'off' | 'failed';
  /** Why it failed, or what is worth saying of it; empty: nothing. */
  words: string;
  at: ModelPoint | null;
}

export interface Rebuilt {
  /** Null where nothing has been made. */
  body: Body | null;
  states: StepState[];
}

/** A solid that a step added or took away: patterns and mirrors make it again. */
interface Made {
  does: Doing;
  tools: Body[];
}

interface Kept {
  /** What the step was made of, as text: the same text makes the same. */
  key: string;
  body: Body | null;
  state: StepState;
  made: Made[];
}

/** More solids than a part has, and more copies than a pattern makes in one go. */
const MOST_TOOLS = 5000;

/**
 * Makes parts step by step, and keeps what came of each: after a change only what follows it is made again. A step that cannot be made is told, and
 * left out of what follows.
 */
export class Builder {
  private kept: Kept[] = [];

  /** `file`: the bytes of an attached file; null where it is not there. */
  constructor(private readonly file: (id: string) => Uint8Array | null = () => null) {}

  /** Makes all steps of a recipe; `onStep` hears of each before it is made, and may stop it by throwing. */
  rebuild(recipe: Recipe, onStep: (done: number, of: number, name: string) => void = () => {}): Rebuilt {
    const keys = recipe.steps.map((step) => JSON.stringify(step));
    let same = 0;
    while (same < keys.length && this.kept[same]?.key === keys[same]) same++;
    const kept = this.kept.slice(0, same);
    this.kept = kept;
    for (let i = same; i < recipe.steps.length; i++) {
      onStep(i, recipe.steps.length, recipe.steps[i].name);
      kept.push({ key: keys[i], ...stepMade(recipe.steps[i], kept, recipe, this.file) });
    }
    return { body: kept.at(-1)?.body ?? null, states: kept.map((k) => k.state) };
  }
}

function stepMade(
  step: Step,
  before: readonly Kept[],
  recipe: Recipe,
  file: (id: string) => Uint8Array | null,
): Omit<Kept, 'key'> {
  const body = before.at(-1)?.body ?? null;
  const failed = (words: string, at: ModelPoint | null): Omit<Kept, 'key'> => ({
    body,
    state: { id: step.id, state: 'failed', words, at },
    made: [],
  });
  if (step.off) return { body, state: { id: step.id, state: 'off', words: '', at: null }, made: [] };
  if (!step.form) return failed(step.fault ?? '', step.faultAt);
  try {
    const made = madeOf(step.form, { id: step.id, body, file }, (id) => earlier(id, before, recipe)),
      next = made.kind === 'body' ? made.body : made.of.reduce((b, m) => combinedIn(b, m), body);
    const lumps = next ? partsOf(next.shape, 'SOLID').length : 0,
      apart = lumps > 1 && lumps > (body ? partsOf(body.shape, 'SOLID').length : 1);
    return {
      body: next,
      state: {
        id: step.id,
        state: 'made',
        words: apart ? `The part is in ${lumps} pieces that do not touch.` : '',
        at: null,
      },
      made: made.kind === 'body' ? [] : made.of,
    };
  } catch (e) {
    if (e instanceof StepFault) return failed(e.message, e.at);
    const said = kernelSays(e);
    if (said === null) throw e;
    return failed(
      'It cannot be made like this: the geometry does not come out. Change its figures a little, or the order.',
      null,
    );
  }
}

const combinedIn = (body: Body | null, { does, tools }: Made): Body => combined(does, body, tools);

type StepResult = { kind: 'body'; body: Body } | { kind: 'tools'; of: Made[] };

function madeOf(form: StepForm, context: Context, earlierMade: (id: string) => Made[]): StepResult {
  switch (form.kind) {
    case 'given':
      return { kind: 'tools', of: [{ does: form.does, tools: [givenTool(form.file, context)] }] };
    case 'extrude':
      return { kind: 'tools', of: [{ does: form.does, tools: [extrudeTool(form, context)] }] };
    case 'revolve':
      return { kind: 'tools', of: [{ does: form.does, tools: [revolveTool(form, context)] }] };
    case 'hole':
      return { kind: 'tools', of: [{ does: 'cut', tools: holeTools(form, context) }] };
    case 'slot':
      return { kind: 'tools', of: [{ does: 'cut', tools: slotTools(form, context) }] };
    case 'rib':
      return { kind: 'tools', of: [{ does: 'add', tools: [ribTool(form, context)] }] };
    case 'round':
    case 'chamfer':
      return { kind: 'body', body: edgesWorked(form, context) };
    case 'shell':
      return { kind: 'body', body: shelled(form, context) };
    case 'mirror':
      if (form.of.length === 0) {
        if (!context.body) throw new StepFault('There is nothing yet to be mirrored.');
        return {
          kind: 'tools',
          of: [
            {
              does: 'add',
              tools: [movedBody(context.body, form.movement, (was) => `${context.id}/1/${was}`)],
            },
          ],
        };
      }
      return { kind: 'tools', of: copies(form.of, [form.movement], context.id, earlierMade) };
    case 'pattern':
      if (form.movements.length === 0)
        throw new StepFault('One copy is none: give it a count of two at least.');
      return { kind: 'tools', of: copies(form.of, form.movements, context.id, earlierMade) };
  }
}

/** What features made, made again elsewhere: all that one of them did in one go. */
function copies(
  of: readonly string[],
  movements: readonly (readonly number[])[],
  id: string,
  earlierMade: (id: string) => Made[],
): Made[] {
  const sources = of.flatMap(earlierMade);
  if (sources.reduce((n, m) => n + m.tools.length * movements.length, 0) > MOST_TOOLS)
    throw new StepFault(`These are more than ${MOST_TOOLS} copies: make fewer.`);
  return sources.map(({ does, tools }) => ({
    does,
    tools: movements.flatMap((m, i) => tools.map((t) => movedBody(t, m, (was) => `${id}/${i + 1}/${was}`))),
  }));
}

function earlier(id: string, before: readonly Kept[], recipe: Recipe): Made[] {
  const index = recipe.steps.findIndex((s) => s.id === id),
    found = before[index];
  if (!found) throw new StepFault('It repeats a feature that is made after it: move it behind that.');
  if (found.state.state !== 'made')
    throw new StepFault(`${recipe.steps[index].name}, which it repeats, has not been made.`);
  if (found.made.length === 0)
    throw new StepFault(`${recipe.steps[index].name} cannot be repeated: only what adds or takes away can.`);
  return found.made;
}
