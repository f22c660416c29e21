'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { group, kindOf, setFields, type Traced } from '@calque/core/model';
import { useSession } from '@/project/context';

/** What of the selected elements nobody has said, and the button that confirms it as it is; nothing where all is said. */
export function AssumedRow<E extends Traced>({ chosen }: { chosen: readonly E[] }) {
  const session = useSession();
  const unsure = chosen.filter((e) => (kindOf(e).doubts?.assumed(e).length ?? 0) > 0),
    words = [...new Set(unsure.flatMap((e) => kindOf(e).doubts!.assumed(e)))];
  if (words.length === 0) return null;
  const confirm = () =>
    session.do(
      group(
        unsure.map((e) => {
          const { id: _, type: __, ...fields } = kindOf(e).doubts!.confirmed(e);
          return setFields<Traced>(e, fields);
        }),
      ),
      'Confirm what was assumed',
    );
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mt: 0.5 }}>
      <Typography variant="caption" sx={{ color: 'assumed' }}>
        {words.join(', ')} assumed
      </Typography>
      <Button onClick={confirm}>Confirm</Button>
    </Box>
  );
}
