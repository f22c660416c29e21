'use client';

import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { useDesk, type Desk } from './use-desk';
import { FindTab } from './find-tab';
import { IssueTab } from './issue-tab';
import { KindsTab } from './kinds-tab';
import { LayersTab } from './layers-tab';
import { LookTab } from './look-tab';
import { MarkupsTab } from './markups-tab';
import { PensTab } from './pens-tab';

const TABS: [string, string, (props: { desk: Desk }) => React.ReactNode][] = [
  ['look', 'Look', LookTab],
  ['layers', 'Layers', LayersTab],
  ['kinds', 'Kinds', KindsTab],
  ['pens', 'Pens', PensTab],
  ['markups', 'Mark-ups', MarkupsTab],
  ['find', 'Find text', FindTab],
  ['issue', 'New issue', IssueTab],
];

/** What can be done with the sheet at hand: how it looks, what of it is off, its comments, its texts, its next issue. */
export function SheetDesk() {
  const desk = useDesk();
  const [tab, setTab] = useState('look');
  if (!desk) return null;
  const Body = TABS.find(([id]) => id === tab)![2];
  return (
    <Box
      component="section"
      aria-label={`The sheet ${desk.underlay.name}`}
      sx={{ mb: 1.75, pb: 1.25, borderBottom: 1, borderColor: 'edge' }}
    >
      <Typography variant="h2" noWrap title={desk.underlay.name}>
        {desk.underlay.name}
      </Typography>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={tab}
        onChange={(_, v: string | null) => v && setTab(v)}
        aria-label="Part of the sheet"
        sx={{
          flexWrap: 'wrap',
          mt: 0.75,
          mb: 1,
          gap: 0.5,
          '& .MuiToggleButton-root': {
            border: 1,
            borderColor: 'edge',
            ml: '0 !important',
            borderRadius: '2px !important',
            py: 0.25,
            px: 0.9,
          },
        }}
      >
        {TABS.map(([id, words]) => (
          <ToggleButton key={id} value={id}>
            {words}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Body desk={desk} />
    </Box>
  );
}
