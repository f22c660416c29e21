import { FORM, formOf, NewerForm, upgradeEntity } from '@calque/core/formats';
import { translation, unionBox } from '@calque/core/geometry';
import {
  boxOf,
  copiesOf,
  toldApart,
  get,
  group,
  isTraced,
  looseOf,
  modelOf,
  movedBy,
  ofType,
  parseEntity,
  pastedWall,
  shownOf,
  standing,
  type Assembly,
  type Change,
  type Model,
  type Traced,
} from '@calque/core/model';
import { shownChosen } from '@/table/hit';
import { removeChosen } from '@/table/removal';
import type { Table } from '@/table/table';
import { EditTool } from '@/table/tools/edit-tool';
import { partHere } from '@/drawing/drawn';

/** Where copied elements wait, also for other projects of this browser. */
const KEY = 'calque-elements';
const MOST = 20000;
interface Kept {
  /** See @calque/core/formats. */
  form: number;
  elements: Traced[];
  groups: Assembly[];
}

/** Keeps what is selected for pasting, here or in another project; false where nothing is. */
export function copySelection(table: Table): boolean {
  // Dimensions go with the points that they have now: what they rest on may stay behind.
  const { model } = table.session.state,
    chosen = shownChosen(table).map((e): Traced => ({
      ...e,
      part: null,
      // Where the levels that it names are not known its height is what it is here.
      ...(e.type === 'wall' && { height: standing(model, e).height }),
    }));
  if (chosen.length === 0) return false;
  // Another project has not this sheet: its name goes along.
  const kept = chosen.map((e): Traced => ({
    ...e,
    source: {
      ...e.source,
      sheet: get(model, 'underlay', e.source.underlayId)?.name ?? e.source.sheet ?? null,
    },
  }));
  try {
    localStorage.setItem(
      KEY,
      JSON.stringify({ form: FORM, elements: kept, groups: groupsIn(model, kept) } satisfies Kept),
    );
  } catch {
    table.session.tell('This is too much for the browser to keep: copy less at a time.', true);
    return false;
  }
  table.session.tell(
    `${chosen.length === 1 ? 'One element' : `${chosen.length} elements`} copied: Ctrl V pastes, here or in another project.`,
  );
  return true;
}

export function cutSelection(table: Table): void {
  if (copySelection(table)) removeChosen(table, 'Cut');
}

/** Groups that are placed among elements. */
const groupsIn = (model: Model, elements: readonly Traced[]): Assembly[] => {
  const ids = new Set(elements.flatMap((e) => (e.type === 'placed' ? [e.assemblyId] : [])));
  return ofType(model, 'assembly')
    .filter((a) => ids.has(a.id))
    .map((a) => ({ ...a, open: null }));
};

/** What waits, checked as anything from outside; empty where there is nothing or it cannot be read. */
function waiting(): Omit<Kept, 'form'> & { why?: string } {
  try {
    const { elements, groups, ...kept } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<
      Record<keyof Kept, unknown>
    >;
    const form = formOf(kept.form, 'What was copied');
    const entities = (value: unknown) =>
      Array.isArray(value) && value.length <= MOST
        ? value.map((e) => parseEntity(upgradeEntity(e, form)))
        : [];
    return {
      elements: entities(elements).filter(isTraced),
      groups: entities(groups).filter((e): e is Assembly => e.type === 'assembly'),
    };
  } catch (error) {
    return { elements: [], groups: [], ...(error instanceof NewerForm && { why: error.message }) };
  }
}

const isWall = (e: Traced): boolean => e.type === 'wall';

/** Lets a click say where what was copied goes, by its lower left corner; Enter pastes it where it was. */
export function takePasteTool(table: Table): void {
  const { elements, groups, why } = waiting();
  // A group that this project has not comes along; where it is known by the same id, this project's own is placed.
  const { model: before } = table.session.state,
    added: Assembly[] = groups.filter((g) => !before.has(g.id));
  const known = modelOf([...before.values(), ...added]);
  const copied = elements
    .filter((e) => e.type !== 'placed' || known.get(e.assemblyId)?.type === 'assembly')
    .map((e) => shownOf(e, known));
  if (copied.length === 0) {
    table.session.tell(why ?? 'Nothing has been copied yet: select elements and press Ctrl C.', true);
    return;
  }
  if (get(before, 'plane', table.state.getState().planeId) && copied.some((e) => looseOf(e).some(isWall))) {
    table.session.tell('Walls stand on floors: go to the plan of a storey to paste them.', true);
    return;
  }
  const [x0, y0] = copied.map(boxOf).reduce(unionBox);
  let pasted: Traced[] = [];
  table.hold(
    new EditTool(
      {
        id: 'paste',
        verb: 'Paste',
        steps: [
          `click where ${copied.length === 1 ? 'its' : 'their'} lower left corner goes · Enter pastes in the old place`,
        ],
        livesAfter: 0,
        keeps: false,
        inPlace: true,
        map: ([p]) => translation(p[0] - x0, p[1] - y0),
      },
      {
        chosen: () => copied,
        apply: (map) => {
          const { model } = table.session.state;
          const { planeId } = table.state.getState();
          pasted = toldApart(
            model,
            copiesOf(copied, () => crypto.randomUUID(), model).map((e) => ({
              ...(e.type === 'wall'
                ? pastedWall(model, movedBy(e, map), planeId)
                : { ...movedBy(e, map), planeId }),
              part: e.type === 'placed' ? null : partHere(table),
              layerId: e.layerId && get(model, 'layer', e.layerId) ? e.layerId : null,
              source: {
                ...e.source,
                underlayId: get(model, 'underlay', e.source.underlayId) ? e.source.underlayId : null,
              },
            })),
          );
          return table.session.do(
            group(
              [...added.filter((g) => !model.has(g.id)), ...pasted].map((entity): Change => ({
                type: 'add',
                entity,
              })),
            ),
            pasted.length === 1 ? 'Paste an element' : `Paste ${pasted.length} elements`,
          );
        },
        done: () => {
          table.layDown();
          table.setSelection(pasted.map((e) => e.id));
        },
      },
    ),
  );
}
