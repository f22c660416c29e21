import {
  isTraced,
  piecesApart,
  planeOf,
  type Change,
  type FeatureForm,
  type Part,
  type Traced,
} from '@calque/core/model';
import {
  foundRules,
  isRuled,
  MOST_LOOKED_THROUGH,
  renamedCurves,
  ruledOn,
  rulesOn,
  type Ruled,
} from '@calque/core/part';
import type { Command, Declared, Hands } from '@/commands/command';
import { count } from '@/project/trace-words';
import { viewEdgesOf } from '@/table/view-edges';
import { AlignViewTool } from './align-view';
import { toggleHeld } from './on-plane';
import { addedFeature, freePartName, newPart, partOf } from './part-changes';
import { openFeature } from './part-ui';

/** What an outline may be drawn with. */
const OUTLINES: ReadonlySet<string> = new Set(['line', 'arc', 'path', 'spline']);
const FIRST_DEPTH = 10,
  FIRST_RIB = 5;

const inHand = ({ table, session }: Hands): { part: Part; planeId: string } | null => {
  const { planeId } = table.state.getState(),
    { model } = session.state,
    part = partOf(planeOf(model, planeId), model);
  return part && { part, planeId };
};
const chosen = ({ table, session }: Hands): Traced[] =>
  [...table.state.getState().selection].flatMap((id) => {
    const e = session.state.model.get(id);
    return e && isTraced(e) ? [e] : [];
  });
const outlines = (hands: Hands): Traced[] => chosen(hands).filter((e) => OUTLINES.has(e.type));

const NO_PART =
  'This is made on a plane of a part: make a part first, or choose one of its planes in the stack.';
const needsPart = (hands: Hands, also: () => string | null): Pick<Command, 'why' | 'applies'> => ({
  why: () => (inHand(hands) ? also() : NO_PART),
});
const needsOutline = (hands: Hands): string | null =>
  outlines(hands).length > 0
    ? null
    : 'Select the outline first: lines and arcs that close, or a closed path.';

/** Makes a feature of a part and opens it. */
function make(hands: Hands, form: FeatureForm, words: string): void {
  const { session } = hands,
    { part } = inHand(hands)!,
    feature = addedFeature(session.state.model, part.id, form, () => crypto.randomUUID());
  if (session.do({ type: 'add', entity: feature }, words)) openFeature(feature.id);
}

const extrude = (hands: Hands, does: 'add' | 'cut'): void => {
  const { planeId } = inHand(hands)!;
  make(
    hands,
    {
      kind: 'extrude',
      profile: { planeId, curves: outlines(hands).map((e) => e.id) },
      does,
      reach: does === 'cut' ? { kind: 'through' } : { kind: 'depth', depth: FIRST_DEPTH, both: false },
      back: false,
      draft: 0,
    },
    does === 'cut' ? 'Cut' : 'Extrude',
  );
};

/** The line about which something is turned: a construction line that is selected with it, else none. */
const axisOf = (hands: Hands): Traced | null =>
  chosen(hands).find((e) => e.type === 'constructionLine' || e.type === 'gridLine') ?? null;

/** Circles and other rounds that are selected: holes are drilled in their middles. */
const rounds = (hands: Hands) => chosen(hands).filter((e) => e.type === 'arc');

/** What rules hold is lines and arcs: paths that are selected come apart into these. */
function findRules(hands: Hands): void {
  const { session, table } = hands,
    { planeId } = inHand(hands)!,
    { model } = session.state;
  const paths = chosen(hands).flatMap((e) => (e.type === 'path' ? [e] : [])),
    apart = paths.map((p) => ({ id: p.id, pieces: piecesApart(p, () => crypto.randomUUID()) ?? [] })),
    pieces = apart.flatMap((a) => a.pieces),
    loose = chosen(hands).filter((e): e is Ruled & Traced => isRuled(e)),
    fresh = new Set([...loose, ...pieces].map((e) => e.id)),
    known = ruledOn(model, planeId).filter((e) => !paths.some((p) => p.id === e.id)),
    all = [...known, ...pieces.filter((e) => isRuled(e))];
  if (all.length > MOST_LOOKED_THROUGH) {
    session.tell(
      `There are ${all.length} pieces of linework on this plane: rules are found among ${MOST_LOOKED_THROUGH} at most. Remove what bounds nothing, or draw on another plane of the part.`,
      true,
    );
    return;
  }
  const found = foundRules(all, rulesOn(model, planeId), fresh),
    changes: Change[] = [
      ...paths.map((entity): Change => ({ type: 'remove', entity })),
      ...pieces.map((entity): Change => ({ type: 'add', entity })),
      ...renamedCurves(model, new Map(apart.map((a) => [a.id, a.pieces.map((e) => e.id)]))),
      ...found.map((r): Change => ({
        type: 'add',
        entity: { type: 'rule', id: crypto.randomUUID(), planeId, value: null, ...r },
      })),
    ];
  if (changes.length === 0) {
    session.tell('Nothing more holds nearly: what is level, upright, joined or touching has its rules.');
    return;
  }
  if (!session.do({ type: 'group', changes }, 'Find rules')) return;
  table.setSelection([...fresh]);
  session.tell(`${count(found.length, 'rule')} found: what was nearly so is so now.`);
}

export const PART_COMMANDS: Declared = (hands) => [
  {
    id: 'new-part',
    words: 'New part: planes of its own, on which views of a part are traced and made solid',
    short: 'New part',
    key: ', d',
    on: ['levels'],
    picture: 'part',
    also: 'component solid product bracket machined sheet metal',
    group: 'Edit',
    repeats: false,
    run: () => {
      const { session, table } = hands,
        { change, planes, part } = newPart(freePartName(session.state.model), () => crypto.randomUUID());
      if (!session.do(change, `Make ${part.name}`)) return;
      openFeature(null);
      table.setPlane(planes[0].id);
      table.setUnderlay(null);
    },
  },
  {
    id: 'part-extrude',
    words: 'Extrude the selected outline into a solid of the part',
    short: 'Extrude',
    also: 'pad boss prism depth solid',
    group: 'Edit',
    ...needsPart(hands, () => needsOutline(hands)),
    run: () => extrude(hands, 'add'),
  },
  {
    id: 'part-cut',
    words: 'Cut the selected outline out of the part',
    short: 'Cut',
    also: 'pocket recess slot remove material',
    group: 'Edit',
    ...needsPart(hands, () => needsOutline(hands)),
    run: () => extrude(hands, 'cut'),
  },
  {
    id: 'part-revolve',
    words: 'Turn the selected outline about the construction line that is selected with it',
    short: 'Revolve',
    also: 'lathe turn rotate axis round solid',
    group: 'Edit',
    ...needsPart(hands, () =>
      axisOf(hands)
        ? needsOutline(hands)
        : 'Select the outline and, with it, a construction line about which it turns.',
    ),
    run: () => {
      const { planeId } = inHand(hands)!;
      make(
        hands,
        {
          kind: 'revolve',
          profile: { planeId, curves: outlines(hands).map((e) => e.id) },
          does: 'add',
          axis: axisOf(hands)!.id,
          angle: 2 * Math.PI,
        },
        'Revolve',
      );
    },
  },
  {
    id: 'part-hole',
    words: 'Drill holes in the middles of the selected circles',
    short: 'Holes',
    also: 'drill bore tap counterbore countersink thread',
    group: 'Edit',
    ...needsPart(hands, () =>
      rounds(hands).length > 0 ? null : 'Select circles first: holes are drilled in their middles.',
    ),
    run: () => {
      const { planeId } = inHand(hands)!,
        found = rounds(hands);
      make(
        hands,
        {
          kind: 'hole',
          planeId,
          at: [],
          centres: found.map((e) => e.id),
          diameter: 2 * (found[0].type === 'arc' ? found[0].radius : FIRST_DEPTH / 2),
          depth: null,
          tip: null,
          head: null,
          thread: null,
          back: false,
          said: '',
        },
        'Drill holes',
      );
    },
  },
  {
    id: 'part-rib',
    words: 'Fill a rib from the selected open chain to the part',
    short: 'Rib',
    also: 'stiffener web gusset',
    group: 'Edit',
    ...needsPart(hands, () => needsOutline(hands)),
    run: () => {
      const { planeId } = inHand(hands)!;
      make(
        hands,
        {
          kind: 'rib',
          profile: { planeId, curves: outlines(hands).map((e) => e.id) },
          thickness: FIRST_RIB,
          right: false,
        },
        'Rib',
      );
    },
  },
  {
    id: 'part-align-view',
    words: 'Align this view of the part with another view by an edge that both have',
    short: 'Align the view',
    also: 'common edge projection lay match front top side depth',
    group: 'Edit',
    ...needsPart(hands, () => {
      const { table, session } = hands;
      return viewEdgesOf(session.state.model, table.state.getState().planeId)
        ? null
        : 'Trace something on another view of the part first: views are aligned by edges that both have.';
    }),
    run: () => {
      hands.table.setViewEdges(true);
      hands.table.hold(new AlignViewTool(hands.table));
    },
  },
  {
    id: 'part-view-edges',
    words: 'Show the edges of the other views of the part on this one, or hide them: picks find them',
    short: 'Edges of views',
    also: 'projection depth common guides front top side',
    group: 'View',
    ...needsPart(hands, () => null),
    run: () => hands.table.setViewEdges(!hands.table.state.getState().viewEdges),
  },
  {
    id: 'part-held',
    words: 'Hold the solid of the part against the sheet on this plane, or no more',
    short: 'Hold against',
    also: 'compare check overlay difference printed figures verify',
    group: 'View',
    ...needsPart(hands, () => null),
    run: toggleHeld,
  },
  {
    id: 'part-rules',
    words: 'Find rules in the selected linework: level, upright, joined, parallel, square, touching, equal',
    short: 'Find rules',
    also: 'constraints sketch parametric dimension drive',
    group: 'Edit',
    ...needsPart(hands, () =>
      chosen(hands).some((e) => isRuled(e) || e.type === 'path')
        ? null
        : 'Select lines, arcs or paths first: rules are found in these.',
    ),
    run: () => findRules(hands),
  },
];
