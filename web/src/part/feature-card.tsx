'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-react';
import { setFields, type Feature, type FeatureForm } from '@calque/core/model';
import { featureName, featuresOf } from '@calque/core/part';
import { useProject, useSession } from '@/project/context';
import { TWO_COLUMNS } from '@/ui/columns';
import { MarkButton } from '@/ui/icon-button';
import { LengthField } from '@/ui/length-field';
import { WordsField } from '@/ui/words-field';
import {
  ExtrudeFields,
  GivenFields,
  RevolveFields,
  RibFields,
  ShellFields,
  SlotFields,
} from './forms/extrude-fields';
import { Tick } from './forms/fields';
import { HoleFields } from './forms/hole-fields';
import { MirrorFields, PatternFields } from './forms/repeat-fields';
import { addedFeature, movedFeature } from './part-changes';
import { chooseNothing, openFeature, usePartUi } from './part-ui';
import { usePartSolid } from './part-solid';

/** Features that can be made again elsewhere. */
const REPEATABLE: ReadonlySet<FeatureForm['kind']> = new Set([
  'extrude',
  'revolve',
  'hole',
  'slot',
  'rib',
  'pattern',
  'mirror',
]);

/** A feature with its figures, each of which can be changed at any time. */
export function FeatureCard({ feature }: { feature: Feature }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    all = featuresOf(model, feature.partId),
    name = featureName(feature, all),
    state = usePartSolid((s) => s.states.find((x) => x.id === feature.id));
  const set = (form: FeatureForm) => session.do(setFields<Feature>(feature, { form }), `Change ${name}`);
  const repeat = (form: FeatureForm, words: string) => {
    const next = addedFeature(model, feature.partId, form, () => crypto.randomUUID());
    if (session.do({ type: 'add', entity: next }, words)) openFeature(next.id);
  };
  const planeId = planeOfForm(feature.form);
  return (
    <Box data-testid="feature-card" sx={{ borderTop: 1, borderColor: 'edge', pt: 1, mt: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          {name}
        </Typography>
        <MarkButton
          word="Make it earlier"
          disabled={all[0]?.id === feature.id}
          onClick={() => session.do(movedFeature(model, feature, -1), `Make ${name} earlier`)}
        >
          <IconArrowUp size={16} stroke={1.7} />
        </MarkButton>
        <MarkButton
          word="Make it later"
          disabled={all.at(-1)?.id === feature.id}
          onClick={() => session.do(movedFeature(model, feature, 1), `Make ${name} later`)}
        >
          <IconArrowDown size={16} stroke={1.7} />
        </MarkButton>
        <MarkButton
          word="Remove it"
          onClick={() => {
            if (session.do({ type: 'remove', entity: feature }, `Remove ${name}`)) openFeature(null);
          }}
        >
          <IconTrash size={16} stroke={1.7} />
        </MarkButton>
      </Box>
      {state?.words && (
        <Typography role="status" sx={{ color: state.state === 'failed' ? 'differs' : 'assumed', mb: 1 }}>
          {state.state === 'failed' ? 'Not made: ' : ''}
          {state.words}
        </Typography>
      )}
      <Box sx={{ ...TWO_COLUMNS, mt: 1 }}>
        <WordsField
          label="Called"
          mayBeEmpty
          value={feature.name}
          onChange={(n) => session.do(setFields<Feature>(feature, { name: n }), `Call ${name}`)}
        />
        <Tick
          label="left out"
          on={feature.off}
          onChange={(off) =>
            session.do(setFields<Feature>(feature, { off }), off ? `Leave ${name} out` : `Make ${name} again`)
          }
        />
        <FormFields feature={feature} form={feature.form} partId={feature.partId} set={set} />
      </Box>
      {REPEATABLE.has(feature.form.kind) && planeId && (
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5, mt: 1 }}>
          <Button
            onClick={() =>
              repeat(
                {
                  kind: 'pattern',
                  of: [feature.id],
                  form: { kind: 'row', planeId, step: [20, 0], count: 2, second: null },
                },
                `Repeat ${name}`,
              )
            }
          >
            Repeat
          </Button>
          <Button
            onClick={() =>
              repeat(
                { kind: 'mirror', of: [feature.id], planeId, line: { from: [0, 0], to: [0, 1] } },
                `Mirror ${name}`,
              )
            }
          >
            Mirror
          </Button>
        </Box>
      )}
    </Box>
  );
}

/** The plane on which a feature was drawn; of one that repeats another that of its own. */
function planeOfForm(form: FeatureForm): string | null {
  if ('profile' in form) return form.profile.planeId;
  if ('planeId' in form) return form.planeId;
  if (form.kind === 'pattern') return form.form.planeId;
  return null;
}

function FormFields({
  feature,
  form,
  partId,
  set,
}: {
  feature: Feature;
  form: FeatureForm;
  partId: string;
  set(form: FeatureForm): void;
}) {
  switch (form.kind) {
    case 'extrude':
      return <ExtrudeFields form={form} set={set} />;
    case 'revolve':
      return <RevolveFields form={form} set={set} />;
    case 'given':
      return <GivenFields form={form} set={set} />;
    case 'hole':
      return <HoleFields feature={feature} form={form} set={set} />;
    case 'slot':
      return <SlotFields form={form} set={set} />;
    case 'pattern':
      return <PatternFields form={form} set={set} />;
    case 'mirror':
      return <MirrorFields form={form} partId={partId} set={set} />;
    case 'round':
      return (
        <>
          <LengthField
            exact
            label="Radius"
            value={form.radius}
            onChange={(radius) => set({ ...form, radius })}
          />
          <EdgesAgain count={form.edges.length} onTake={(edges) => set({ ...form, edges })} />
        </>
      );
    case 'chamfer':
      return (
        <>
          <LengthField
            exact
            label="Cut off"
            value={form.distance}
            onChange={(distance) => set({ ...form, distance })}
          />
          <EdgesAgain count={form.edges.length} onTake={(edges) => set({ ...form, edges })} />
        </>
      );
    case 'shell':
      return <ShellFields form={form} set={set} />;
    case 'rib':
      return <RibFields form={form} set={set} />;
  }
}

/** Its edges, and those that are chosen in the picture instead. */
function EdgesAgain({
  count,
  onTake,
}: {
  count: number;
  onTake(edges: Extract<FeatureForm, { kind: 'round' }>['edges']): void;
}) {
  const chosen = usePartUi((s) => s.edges);
  return (
    <Box sx={{ gridColumn: '1 / -1' }}>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
        On {count} {count === 1 ? 'edge' : 'edges'}.
      </Typography>
      {chosen.length > 0 && (
        <Button
          onClick={() => {
            onTake([...chosen]);
            chooseNothing();
          }}
        >
          Take the {chosen.length} chosen instead
        </Button>
      )}
    </Box>
  );
}
