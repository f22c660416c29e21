'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Stack from '@mui/material/Stack';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import { useColorScheme } from '@mui/material/styles';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconHistory,
  IconKeyboard,
  IconMoon,
  IconSun,
} from '@tabler/icons-react';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import { settingsOf } from '@calque/core/model';
import { UNIT_NAMES } from '@calque/core/units';
import { useFromModel, useProject, useSession } from '@/project/context';
import { useDoubts } from '@/project/doubts';
import { MarkButton } from '@/ui/icon-button';
import { Mark } from '@/ui/mark';
import { SetAside } from './set-aside';
import { ProjectSettings } from './project-settings';
import type { StageId } from '@/commands/command';
import { stageHeads } from './stage-list';

const ICON = { size: 18, stroke: 1.6 } as const;

interface Props {
  stage: StageId;
  /** Is the model seen in space, or in its plane? */
  inSpace: boolean;
  onSpace(inSpace: boolean): void;
  onStage(stage: StageId): void;
  onSearch(): void;
  onHelp(): void;
}

/** Top strip: project, the five stages with their state, saved state, undo, search. */
export function Strip({ stage, inSpace, onSpace, onStage, onSearch, onHelp }: Props) {
  const settings = useFromModel(settingsOf);
  const doubts = useDoubts();
  const model = useProject((s) => s.model);
  const heads = useMemo(() => stageHeads(model, doubts), [model, doubts]);
  const [setting, setSetting] = useState(false);
  return (
    <Box
      component="header"
      sx={{
        position: 'absolute',
        inset: '0 0 auto 0',
        height: 48,
        bgcolor: 'slip',
        borderBottom: 1,
        borderColor: 'edge',
        display: 'flex',
        alignItems: 'center',
        px: { xs: 0.75, md: 1.5 },
        gap: { xs: 0.25, md: 1.25 },
      }}
    >
      <Tooltip title="All projects">
        <Box
          component={Link}
          href="/"
          aria-label="All projects"
          sx={{ color: 'text.primary', display: 'flex' }}
        >
          <Mark size={30} />
        </Box>
      </Tooltip>
      <ButtonBase
        onClick={() => setSetting(true)}
        aria-label={`Project ${settings.name}: name and units`}
        sx={{
          textAlign: 'left',
          // At 200 % of a small screen the stages come first; the name is in the title of the page.
          display: { xs: 'none', md: 'block' },
          minWidth: 0,
          maxWidth: 220,
          flex: '0 2 auto',
          overflow: 'hidden',
        }}
      >
        <Typography noWrap sx={{ fontSize: 15, fontWeight: 650, lineHeight: 1.2 }}>
          {settings.name}
        </Typography>
        <Typography
          noWrap
          variant="caption"
          color="text.secondary"
          sx={{ display: 'block', lineHeight: 1.2 }}
        >
          {UNIT_NAMES[settings.units]}
        </Typography>
      </ButtonBase>
      <Stack
        component="nav"
        aria-label="Stages"
        direction="row"
        sx={{ flex: 1, justifyContent: 'center', minWidth: 0 }}
      >
        {heads.map((h) => (
          <ButtonBase
            key={h.id}
            onClick={() => onStage(h.id)}
            aria-current={stage === h.id ? 'step' : undefined}
            sx={{
              height: 48,
              px: { xs: 0.75, md: 1.1 },
              display: 'block',
              textAlign: 'left',
              minWidth: { xs: 0, md: 76, lg: 92 },
              color: stage === h.id ? 'text.primary' : 'text.secondary',
              borderBottom: 3,
              borderColor: stage === h.id ? 'now' : 'transparent',
            }}
          >
            <Typography sx={{ fontSize: { xs: 13, md: 14.5 }, fontWeight: 650, lineHeight: 1.2 }}>
              {h.name}
            </Typography>
            <Typography
              variant="caption"
              noWrap
              sx={{ display: { xs: 'none', md: 'block' }, fontSize: 11.5, lineHeight: 1.2 }}
            >
              {h.state}
            </Typography>
          </ButtonBase>
        ))}
      </Stack>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={inSpace ? 'model' : 'plan'}
        aria-label="The drawing in its plane, or all of it in space"
        onChange={(_, v: 'plan' | 'model' | null) => {
          if (v) onSpace(v === 'model');
        }}
        sx={{ display: { xs: 'none', md: 'flex' } }}
      >
        <ToggleButton value="plan" sx={{ px: 1 }}>
          Plan
        </ToggleButton>
        <ToggleButton value="model" sx={{ px: 1 }}>
          Model
        </ToggleButton>
      </ToggleButtonGroup>
      <UndoRedo />
      <SetAside />
      <Saved />
      <Button
        variant="outlined"
        onClick={onSearch}
        sx={{ color: 'text.secondary', gap: 1.5, fontWeight: 500 }}
      >
        <Box
          component="span"
          sx={{
            // On small screens its key says enough to the eye.
            position: { xs: 'absolute', lg: 'static' },
            clipPath: { xs: 'inset(50%)', lg: 'none' },
          }}
        >
          Find a command
        </Box>
        <span>Ctrl K</span>
      </Button>
      <LightSwitch />
      <MarkButton word="Keys and what they do" onClick={onHelp}>
        <IconKeyboard {...ICON} />
      </MarkButton>
      {setting && <ProjectSettings onClose={() => setSetting(false)} />}
    </Box>
  );
}

/** More steps than these are not listed at once. */
const LISTED = 40;

function UndoRedo() {
  const session = useSession();
  const history = useProject((s) => s.history);
  const hasEarlier = useProject((s) => s.hasEarlier);
  const [list, setList] = useState<HTMLElement | null>(null);
  const undo = history.done.at(-1),
    redo = history.undone.at(-1);
  const listed = history.done.slice(-LISTED).reverse();
  /** Takes back so many steps, or does so many again; stops where one no longer applies. */
  const go = (times: number, step: () => boolean) => {
    setList(null);
    for (let i = 0; i < times && step(); i++);
  };
  return (
    <Stack direction="row">
      <MarkButton
        word={undo ? `Undo: ${undo.label}` : 'Undo: nothing'}
        name="Undo"
        disabled={!undo && !hasEarlier}
        onClick={() => session.undo()}
      >
        <IconArrowBackUp {...ICON} />
      </MarkButton>
      <MarkButton
        word={redo ? `Redo: ${redo.label}` : 'Redo: nothing'}
        name="Redo"
        disabled={!redo}
        onClick={() => session.redo()}
      >
        <IconArrowForwardUp {...ICON} />
      </MarkButton>
      <MarkButton
        word="What has been done, step by step"
        name="Steps"
        disabled={!undo && !redo}
        aria-haspopup="menu"
        onClick={(e) => setList(e.currentTarget)}
        sx={{ display: { xs: 'none', md: 'inline-flex' } }}
      >
        <IconHistory {...ICON} />
      </MarkButton>
      <Menu
        anchorEl={list}
        open={list !== null}
        onClose={() => setList(null)}
        slotProps={{ paper: { sx: { maxHeight: 420, maxWidth: 360 } } }}
      >
        {history.undone.slice(-LISTED).map((s, i, all) => (
          <MenuItem
            key={s.id}
            onClick={() => go(all.length - i, () => session.redo())}
            sx={{ color: 'text.secondary', fontStyle: 'italic' }}
          >
            do again: {s.label}
          </MenuItem>
        ))}
        {listed.map((s, i) => (
          <MenuItem key={s.id} onClick={() => go(i + 1, () => session.undo())}>
            take back{i > 0 ? ` to before` : ''}: {s.label}
          </MenuItem>
        ))}
        {history.done.length > LISTED && (
          <Typography color="text.secondary" sx={{ px: 2, py: 0.5 }}>
            and {history.done.length - LISTED}
            {hasEarlier ? ' and more' : ''} before
          </Typography>
        )}
      </Menu>
    </Stack>
  );
}

function Saved() {
  const saved = useProject((s) => s.saved);
  const count = useProject((s) => s.pendingCount);
  const away = useProject((s) => s.away) ?? 'The server does not answer.';
  const words =
    saved === 'saved'
      ? 'All saved'
      : saved === 'saving'
        ? 'Saving …'
        : saved === 'unkept'
          ? `Not saved, not kept: ${count}`
          : `Not saved yet: ${count}`;
  return (
    <Tooltip
      title={
        saved === 'unkept'
          ? `${away} And this browser keeps nothing (a private window, or a full disk). Leave this page open: your steps are sent when the server is back.`
          : saved === 'waiting'
            ? `${away} Your steps are kept in this browser and sent when it is back.`
            : 'Every step is saved as it is made'
      }
    >
      <Typography
        role="status"
        data-testid="saved"
        noWrap
        sx={{
          fontSize: 12.5,
          color:
            saved === 'waiting' || saved === 'unkept'
              ? 'differs'
              : saved === 'saved'
                ? 'known'
                : 'text.secondary',
          fontWeight: saved === 'waiting' || saved === 'unkept' ? 650 : 500,
          minWidth: 62,
        }}
      >
        {words}
      </Typography>
    </Tooltip>
  );
}

function LightSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  return (
    <MarkButton word={dark ? 'Light' : 'Dark'} onClick={() => setMode(dark ? 'light' : 'dark')}>
      {dark ? <IconSun {...ICON} /> : <IconMoon {...ICON} />}
    </MarkButton>
  );
}
