'use client';

import type { Mirror, Pattern } from '@calque/core/model';
import { LengthField } from '@/ui/length-field';
import { useProject } from '@/project/context';
import { partPlanes } from '@calque/core/part';
import { AngleField, Choice, CountField } from './fields';

const MOST = 5000;

/** Features again: in a row, two rows, round a centre. */
export function PatternFields({ form, set }: { form: Pattern; set(form: Pattern): void }) {
  const { form: way } = form,
    { planeId } = way;
  return (
    <>
      <Choice
        label="Repeated"
        value={way.kind === 'points' ? 'row' : way.kind}
        options={[
          ['row', 'in a row'],
          ['circle', 'round a centre'],
        ]}
        onChange={(kind) =>
          set({
            ...form,
            form:
              kind === 'row'
                ? { kind, planeId, step: [20, 0], count: 2, second: null }
                : { kind, planeId, centre: [0, 0], count: 4, angle: Math.PI / 2 },
          })
        }
      />
      {way.kind === 'row' && (
        <>
          <CountField
            label="So many"
            value={way.count}
            most={MOST}
            onChange={(count) => set({ ...form, form: { ...way, count } })}
          />
          <LengthField
            exact
            label="Step across"
            positive={false}
            value={way.step[0]}
            onChange={(x) => set({ ...form, form: { ...way, step: [x, way.step[1]] } })}
          />
          <LengthField
            exact
            label="Step up"
            positive={false}
            value={way.step[1]}
            onChange={(y) => set({ ...form, form: { ...way, step: [way.step[0], y] } })}
          />
          <CountField
            label="So many rows"
            value={way.second?.count ?? 1}
            most={MOST}
            onChange={(count) =>
              set({
                ...form,
                form: { ...way, second: count === 1 ? null : { step: way.second?.step ?? [0, 20], count } },
              })
            }
          />
          {way.second && (
            <>
              <LengthField
                exact
                label="Rows across"
                positive={false}
                value={way.second.step[0]}
                onChange={(x) =>
                  set({
                    ...form,
                    form: { ...way, second: { ...way.second!, step: [x, way.second!.step[1]] } },
                  })
                }
              />
              <LengthField
                exact
                label="Rows up"
                positive={false}
                value={way.second.step[1]}
                onChange={(y) =>
                  set({
                    ...form,
                    form: { ...way, second: { ...way.second!, step: [way.second!.step[0], y] } },
                  })
                }
              />
            </>
          )}
        </>
      )}
      {way.kind === 'circle' && (
        <>
          <CountField
            label="So many"
            value={way.count}
            most={MOST}
            onChange={(count) => set({ ...form, form: { ...way, count } })}
          />
          <AngleField
            label="Each by"
            value={way.angle}
            least={-360}
            most={360}
            onChange={(angle) => set({ ...form, form: { ...way, angle } })}
          />
          <LengthField
            exact
            label="Centre across"
            positive={false}
            value={way.centre[0]}
            onChange={(x) => set({ ...form, form: { ...way, centre: [x, way.centre[1]] } })}
          />
          <LengthField
            exact
            label="Centre up"
            positive={false}
            value={way.centre[1]}
            onChange={(y) => set({ ...form, form: { ...way, centre: [way.centre[0], y] } })}
          />
        </>
      )}
    </>
  );
}

/** Features again on the other side of a line of a plane, or of the plane itself. */
export function MirrorFields({
  form,
  partId,
  set,
}: {
  form: Mirror;
  partId: string;
  set(form: Mirror): void;
}) {
  const planes = useProject((s) => s.model),
    all = partPlanes(planes, partId),
    { line } = form,
    upright = line !== null && Math.abs(line.from[0] - line.to[0]) < 1e-9;
  return (
    <>
      <Choice
        label="On the plane"
        value={form.planeId}
        options={all.map((p) => [p.id, p.name] as const)}
        onChange={(planeId) => set({ ...form, planeId })}
      />
      <Choice
        label="Mirrored by"
        value={line === null ? 'plane' : upright ? 'upright' : 'level'}
        options={[
          ['plane', 'the plane itself'],
          ['upright', 'an upright line of it'],
          ['level', 'a level line of it'],
        ]}
        onChange={(by) =>
          set({
            ...form,
            line:
              by === 'plane'
                ? null
                : by === 'upright'
                  ? { from: [0, 0], to: [0, 1] }
                  : { from: [0, 0], to: [1, 0] },
          })
        }
      />
      {line && (
        <LengthField
          exact
          label={upright ? 'Across' : 'Up'}
          positive={false}
          value={upright ? line.from[0] : line.from[1]}
          onChange={(v) =>
            set({ ...form, line: upright ? { from: [v, 0], to: [v, 1] } : { from: [0, v], to: [1, v] } })
          }
        />
      )}
    </>
  );
}
