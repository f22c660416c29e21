'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import {
  endsSwapped,
  get,
  group,
  hasLength,
  memberAxis,
  MEMBER_ROLES,
  mirroredPoint,
  setFields,
  type Member,
  type MemberRole,
} from '@calque/core/model';
import { cutFigures } from '@calque/core/framing';
import { isUpright } from '@calque/core/planes';
import { formatLengthWithUnit, formatNumber } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { lengthStyle } from '@/project/views';
import { TWO_COLUMNS } from '@/ui/columns';
import { FigureField } from '@/ui/figure-field';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';
import { WordsField } from '@/ui/words-field';
import { readDensity } from './density';
import { likelyRole, madeOf, naturalTurn } from './next-member';
import { JointFields } from './joint-fields';
import { LevelsList } from './levels-list';
import { PlacingPicture } from './placing-picture';
import { SectionChoice } from './section-choice';

/** Radians within which turns are one. */
const ONE_TURN = 1e-9;

/** Section, placing, length and mass of the members selected; one entry changes all of them. */
export function MemberFields({ chosen: members }: { chosen: readonly Member[] }) {
  const session = useSession(),
    model = useProject((s) => s.model),
    style = useFromModel(lengthStyle);
  const set = (fields: (m: Member) => Partial<Omit<Member, 'id' | 'type'>>, label: string) => {
    const next = members.map((m) => ({ m, fields: fields(m) }));
    if (next.some(({ m, fields: f }) => !hasLength({ ...m, ...f }))) {
      session.tell('Nothing would be left of it: it is shorter than that.', true);
      return;
    }
    session.do(group(next.map(({ m, fields: f }) => setFields(m, f))), label);
  };
  /** How a member is turned from how it would usually stand. */
  const ownTurn = (m: Member): number => {
    const plane = get(model, 'plane', m.planeId),
      natural = memberAxis(m).endOn !== 0 ? 0 : naturalTurn(!!plane && isUpright(plane), m.from, m.to),
      turn = (m.turn - natural) % (2 * Math.PI);
    return Math.abs(turn) < ONE_TURN ? 0 : turn;
  };
  const standsUp = (m: Member): boolean => {
    const plane = get(model, 'plane', m.planeId);
    return (
      memberAxis(m).endOn !== 0 ||
      (!!plane && isUpright(plane) && likelyRole(true, m.from, m.to) === 'column')
    );
  };
  const same = <V,>(of: (m: Member) => V): V | null => {
    const first = JSON.stringify(of(members[0]));
    return members.every((m) => JSON.stringify(of(m)) === first) ? of(members[0]) : null;
  };
  const section = same((m) => m.section),
    turn = same((m) => Math.round(ownTurn(m) * 1e6) / 1e6),
    mirrored = same((m) => m.mirrored),
    stands = same(standsUp),
    figures = members.map((m) => cutFigures(model, m)),
    masses = figures.map((f) => f.mass),
    mass = masses.every((v) => v !== null) ? masses.reduce((a, b) => a + (b ?? 0), 0) : null;
  const swap = () => set((m) => endsSwapped(m), 'Change the ends of a member');
  return (
    <Box sx={{ width: '100%' }}>
      <SectionChoice
        value={section}
        onChange={(next) =>
          set(
            (m) => ({ section: next, ...(m.material === madeOf(m.section).material && madeOf(next)) }),
            'Change a section',
          )
        }
      />
      {section && turn !== null && mirrored !== null && stands !== null && (
        <PlacingPicture
          section={section}
          point={same((m) => m.point)}
          turn={turn}
          mirrored={mirrored}
          stands={stands}
          onChange={(point) => set(() => ({ point }), 'Place a member by another point')}
        />
      )}
      <Box sx={{ display: 'flex', gap: 1, my: 1, flexWrap: 'wrap' }}>
        <Button
          variant="outlined"
          onClick={() => set((m) => ({ turn: m.turn + Math.PI / 2 }), 'Turn a member')}
        >
          Quarter turn
        </Button>
        <Button
          variant="outlined"
          onClick={() =>
            set((m) => ({ mirrored: !m.mirrored, point: mirroredPoint(m.point) }), 'Mirror a section')
          }
        >
          Mirror
        </Button>
        <Button variant="outlined" onClick={swap}>
          Swap ends
        </Button>
      </Box>
      <Box sx={TWO_COLUMNS}>
        <LengthField
          label="Cut back at start"
          positive={false}
          least={0}
          value={shared(members, (m) => m.back[0])}
          onChange={(mm) => set((m) => ({ back: [mm, m.back[1]] }), 'Cut a member back')}
        />
        <LengthField
          label="Cut back at end"
          positive={false}
          least={0}
          value={shared(members, (m) => m.back[1])}
          onChange={(mm) => set((m) => ({ back: [m.back[0], mm] }), 'Cut a member back')}
        />
        <LengthField
          label="Start out of plane"
          positive={false}
          value={shared(members, (m) => m.rise[0])}
          onChange={(mm) => set((m) => ({ rise: [mm, m.rise[1]] }), 'Raise a member')}
        />
        <LengthField
          label="End out of plane"
          positive={false}
          value={shared(members, (m) => m.rise[1])}
          onChange={(mm) => set((m) => ({ rise: [m.rise[0], mm] }), 'Raise a member')}
        />
        <TextField
          select
          label="It is a"
          value={same((m) => m.role) ?? ''}
          onChange={(e) => set(() => ({ role: e.target.value as MemberRole }), 'Say what a member is for')}
        >
          {MEMBER_ROLES.map((role) => (
            <MenuItem key={role} value={role}>
              {role}
            </MenuItem>
          ))}
        </TextField>
        <WordsField
          label="Mark"
          mayBeEmpty
          value={same((m) => m.mark) ?? ''}
          onChange={(mark) => set(() => ({ mark }), 'Mark a member')}
        />
        <WordsField
          label="Material"
          value={same((m) => m.material) ?? ''}
          onChange={(material) => set(() => ({ material }), 'Say what a member is made of')}
        />
        <FigureField
          label="Density, kg/m³"
          value={shared(members, (m) => m.density)}
          shown={(v) => formatNumber(v, 0)}
          read={readDensity}
          wrong="A density above 0, in kg/m³"
          onChange={(density) => set(() => ({ density }), 'Say what a member is made of')}
        />
      </Box>
      <LevelsList chosen={members} />
      <JointFields chosen={members} />
      <Typography sx={{ mt: 1 }} data-testid="member-figures">
        {members.length === 1
          ? `Cut ${formatLengthWithUnit(figures[0].length, style)} long`
          : `${members.length} members, ${formatLengthWithUnit(
              figures.reduce((sum, f) => sum + f.length, 0),
              style,
            )} together`}
        {mass === null ? '; no mass: a section is in no table.' : `, ${formatNumber(mass, 1)} kg.`}
      </Typography>
    </Box>
  );
}
