import {
  closedAssembly,
  get,
  group,
  isTraced,
  LARGEST_ASSEMBLY,
  leftAssembly,
  looseOf,
  makeAssembly,
  ofType,
  openAssembly,
  openedAssembly,
  piecesApart,
  removedAssembly,
  removeElements,
  setFields,
  shownOf,
  takenApart,
  type Assembly,
  type Change,
  type Placed,
  type Traced,
} from '@calque/core/model';
import { renamedCurves } from '@calque/core/part';
import { formatNumber } from '@calque/core/units';
import { count } from '@/project/trace-words';
import { chosenTraced } from '@/table/hit';
import type { Table } from '@/table/table';
import { PicksTool } from '@/table/tools/picks-tool';
import { PlaceTool } from '@/kinds/placed/place-tool';

const LONGEST_NAME = 80;
const newId = () => crypto.randomUUID();
const label = (words: string) => words.slice(0, 190);

/** Why a name does not do for a group; null where it does. */
function nameProblem(table: Table, name: string, own?: string): string | null {
  if (name === '') return 'Give the group a name.';
  if (name.length > LONGEST_NAME) return `The name is too long: at most ${LONGEST_NAME} letters.`;
  const taken = ofType(table.session.state.model, 'assembly').some(
    (a) => a.id !== own && a.name.toLowerCase() === name.toLowerCase(),
  );
  return taken ? `There is a group "${name}" already. Give another name.` : null;
}

/** Makes a group of what is selected: a pick says by which point it will be placed, then its name is asked for. */
export function takeGroupTool(table: Table): void {
  const selection = [...table.state.getState().selection],
    chosen = chosenTraced(table);
  if (chosen.length === 0) {
    table.session.tell('Select what the group is to consist of first: click it, or drag a box.');
    return;
  }
  const size = chosen.reduce((n, e) => n + looseOf(shownOf(e, table.session.state.model)).length, 0);
  if (size > LARGEST_ASSEMBLY) {
    table.session.tell(
      `A group holds at most ${formatNumber(LARGEST_ASSEMBLY, 0)} elements, and these are ${formatNumber(size, 0)}: make several of them.`,
      true,
    );
    return;
  }
  if (openAssembly(table.session.state.model)) {
    table.session.tell('A group is being edited: finish that first (Shift Z).', true);
    return;
  }
  const name = (values: Record<string, string>) => (values.name ?? '').trim();
  let named = '';
  table.hold(
    new PicksTool({
      id: 'group',
      steps: [`Group of ${count(chosen.length, 'element')}: pick the point by which it will be placed`],
      ask: () => ({
        required: true,
        fields: [{ id: 'name', label: 'name', unit: 'text', live: '' }],
        hint: 'Enter makes the group.',
      }),
      submit: (_picks, values) => {
        named = name(values);
        return nameProblem(table, named);
      },
      done: ([pick]) => {
        // By their ids: what was selected has come back from the server as other objects meanwhile, or is gone.
        const { model } = table.session.state,
          placedId = newId(),
          now = chosen.map((e) => model.get(e.id)).filter((e): e is Traced => !!e && isTraced(e));
        const change = makeAssembly(model, now, { id: newId(), placedId, name: named, base: pick.plane });
        table.layDown();
        if (!change)
          table.session.tell(
            'What was selected is there no more: select again what the group is to consist of.',
            true,
          );
        else if (table.session.do(change, label(`Make the group ${named}`))) table.setSelection([placedId]);
      },
    }),
  );
  // Taking a tool up lets go of nothing: what is selected stays lit.
  table.setSelection(selection);
}

/** The group that was placed last, or the only one. */
let lastPlaced: string | null = null;

export function takePlaceTool(table: Table, assemblyId?: string): void {
  const { model } = table.session.state,
    all = ofType(model, 'assembly').filter((a) => !a.open);
  const assembly = all.find((a) => a.id === (assemblyId ?? lastPlaced)) ?? all.at(-1);
  if (!assembly) {
    table.session.tell('There is no group yet: select what it is to consist of and make one (Shift F).');
    return;
  }
  lastPlaced = assembly.id;
  table.hold(new PlaceTool(table, assembly));
}

/** The placed group that is selected alone. */
export function chosenPlaced(table: Table): Placed | null {
  const chosen = chosenTraced(table);
  return chosen.length === 1 && chosen[0].type === 'placed' ? chosen[0] : null;
}

/** Opens the selected group for editing, or ends editing the one that is open. */
export function editGroup(table: Table): void {
  const { model } = table.session.state,
    open = openAssembly(model);
  if (open) {
    finishGroup(table, open);
    return;
  }
  const placed = chosenPlaced(table),
    assembly = get(model, 'assembly', placed?.assemblyId);
  const opened = placed && openedAssembly(model, placed, newId);
  if (!opened || !assembly) {
    table.session.tell('Select one placed group to edit it.');
    return;
  }
  if (table.session.do(opened.change, label(`Edit the group ${assembly.name}`))) table.setSelection([]);
}

/** What belongs to the open group now is what it consists of, everywhere. */
export function finishGroup(table: Table, open: Assembly): void {
  const { model } = table.session.state,
    change = closedAssembly(model, open);
  if (!change) {
    table.session.tell(`Nothing is left of ${open.name}: draw something, or leave it as it was.`, true);
    return;
  }
  if (table.session.do(change, label(`Change the group ${open.name}`)))
    table.setSelection(open.open ? [open.open.placed.id] : []);
}

export function leaveGroup(table: Table, open: Assembly): void {
  if (
    table.session.do(
      leftAssembly(table.session.state.model, open),
      label(`Leave the group ${open.name} as it was`),
    )
  )
    table.setSelection([]);
}

/** Takes the selected groups, paths and outlines apart, in one step. */
export function takeApart(table: Table): void {
  const { model } = table.session.state,
    chosen = chosenTraced(table);
  const groups = chosen
    .filter((e): e is Placed => e.type === 'placed')
    .map((p) => takenApart(model, p, newId));
  const whole = chosen.flatMap((e) => {
    const pieces = piecesApart(e, newId);
    return pieces ? [{ e, pieces }] : [];
  });
  if (groups.length + whole.length === 0) {
    table.session.tell(
      'Select groups, paths or outlines: nothing that is selected consists of several pieces.',
    );
    return;
  }
  const added = [...groups.flatMap((g) => g.elements), ...whole.flatMap((w) => w.pieces)];
  const change = group([
    ...groups.map((g) => g.change),
    removeElements(
      model,
      whole.map((w) => w.e),
    ),
    ...whole.flatMap((w) => w.pieces.map((entity): Change => ({ type: 'add', entity }))),
    // Parts that are made of them are made of their pieces from now on.
    ...renamedCurves(model, new Map(whole.map((w) => [w.e.id, w.pieces.map((piece) => piece.id)]))),
  ]);
  const things =
    groups.length === 0
      ? count(whole.length, 'path')
      : whole.length === 0
        ? count(groups.length, 'group')
        : `${groups.length + whole.length} things`;
  if (table.session.do(change, `Take ${things} apart`)) table.setSelection(added.map((e) => e.id));
}

/** Gives a group another name; words where it does not do. */
export function renameGroup(table: Table, assembly: Assembly, name: string): string | null {
  const problem = nameProblem(table, name.trim(), assembly.id);
  if (problem === null)
    table.session.do(setFields(assembly, { name: name.trim() }), label(`Rename a group to ${name.trim()}`));
  return problem;
}

export function removeGroup(table: Table, assembly: Assembly): void {
  table.session.do(
    removedAssembly(table.session.state.model, assembly, newId),
    label(`Remove the group ${assembly.name}`),
  );
}
