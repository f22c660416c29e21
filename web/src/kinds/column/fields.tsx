'use client';

import Box from '@mui/material/Box';
import { group, setFields, type Column } from '@calque/core/model';
import { useSession } from '@/project/context';
import { AssumedRow } from '@/ui/assumed-row';
import { TWO_COLUMNS } from '@/ui/columns';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** Section, foot and height of columns. */
export function ColumnFields({ chosen: columns }: { chosen: readonly Column[] }) {
  const session = useSession();
  const set = (fields: (c: Column) => Partial<Omit<Column, 'id' | 'type'>>, label: string) =>
    session.do(group(columns.map((c) => setFields(c, fields(c)))), label);
  const rectangles = columns.filter((c) => c.section.form === 'rectangle'),
    rounds = columns.filter((c) => c.section.form === 'round');
  const side = (which: 'width' | 'depth') => (
    <LengthField
      label={which === 'width' ? 'Width' : 'Depth'}
      value={shared(rectangles, (c) => (c.section.form === 'rectangle' ? c.section[which] : 0))}
      onChange={(mm) =>
        set(
          (c) => (c.section.form === 'rectangle' ? { section: { ...c.section, [which]: mm } } : {}),
          `Change the ${which} of a column`,
        )
      }
    />
  );
  return (
    <Box sx={{ width: '100%' }}>
      <Box sx={TWO_COLUMNS}>
        {rectangles.length > 0 && rounds.length === 0 && (
          <>
            {side('width')}
            {side('depth')}
          </>
        )}
        {rounds.length > 0 && rectangles.length === 0 && (
          <LengthField
            label="Diameter"
            value={shared(rounds, (c) => (c.section.form === 'round' ? c.section.diameter : 0))}
            onChange={(diameter) =>
              set(
                (c) => (c.section.form === 'round' ? { section: { ...c.section, diameter } } : {}),
                'Change the diameter of a column',
              )
            }
          />
        )}
        <LengthField
          label="Foot above level"
          positive={false}
          value={shared(columns, (c) => c.foot)}
          onChange={(foot) => set(() => ({ foot }), 'Change the foot of a column')}
        />
        <LengthField
          label="Height"
          value={shared(columns, (c) => c.height)}
          onChange={(height) =>
            set(() => ({ height, heightAssumed: false }), 'Change the height of a column')
          }
        />
      </Box>
      <AssumedRow chosen={columns} />
    </Box>
  );
}
