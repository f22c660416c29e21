'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import {
  flatSection,
  knownSection,
  placingOffset,
  PLACING_POINTS,
  type GivenSection,
  type PlacingPoint,
} from '@calque/core/model';

const SIZE = 132,
  MARGIN = 16;

const COLUMN_WORDS = ['left', 'middle', 'right'],
  ROW_WORDS = ['bottom', 'centre', 'top'];

/** Cosine and sine of quarter turns. */
const QUARTERS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
] as const;

/** A whole number of quarter turns; null for any other turn. */
function quartersOf(turn: number): number | null {
  const quarters = Math.round(turn / (Math.PI / 2));
  return Math.abs(turn - (quarters * Math.PI) / 2) < 1e-6 ? quarters : null;
}

/**
 * In words: which line of the member is drawn, as it lies when it is turned so. `stands`: it goes up, or is turned by no quarters, and has no
 * top or left: then it is said of its section.
 */
export function placingWords(point: PlacingPoint, turn: number, stands: boolean): string {
  const quarters = stands ? 0 : quartersOf(turn),
    [x, y] = [((point - 1) % 3) - 1, Math.floor((point - 1) / 3) - 1],
    [c, s] = QUARTERS[(((quarters ?? 0) % 4) + 4) % 4],
    [across, up] = [c * x - s * y, s * x + c * y],
    row = ROW_WORDS[up + 1],
    side = COLUMN_WORDS[across + 1],
    of = stands || quarters === null ? 'its section' : 'the member';
  if (point === 5) return `the line is the centre of ${of}`;
  if (across === 0) return `the line is the ${row} of ${of}`;
  return up === 0 ? `the line is the ${side} of ${of}` : `the line is the ${row} ${side} edge of ${of}`;
}

/** The section as it is seen from the member's start, true to shape, with the nine points of its box: the one on the drawn line is chosen in it. */
export function PlacingPicture({
  section,
  point,
  turn,
  mirrored,
  stands = false,
  onChange,
}: {
  section: GivenSection;
  point: PlacingPoint | null;
  /** From upright, radians, counter-clockwise. */
  turn: number;
  mirrored: boolean;
  /** Does it go up, so that it has no top and no left? */
  stands?: boolean;
  onChange(point: PlacingPoint): void;
}) {
  const known = knownSection(section);
  if (!known)
    return (
      <Typography color="error" sx={{ my: 1 }}>
        No table has this section: choose another.
      </Typography>
    );
  const reach = Math.hypot(known.b, known.h),
    scale = (SIZE - 2 * MARGIN) / (turn % (Math.PI / 2) === 0 ? Math.max(known.b, known.h) : reach),
    middle = SIZE / 2,
    [c, s] = [Math.cos(turn), Math.sin(turn)],
    onScreen = ([x, y]: readonly [number, number]): [number, number] => [
      middle + scale * (c * x - s * y),
      middle - scale * (s * x + c * y),
    ];
  const path = flatSection(known.rings)
    .map((ring) => `M${ring.map(([x, y]) => onScreen([mirrored ? -x : x, y]).join(' ')).join('L')}Z`)
    .join('');
  return (
    <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
      <Box
        role="radiogroup"
        aria-label="Point of the section on the drawn line"
        sx={{
          position: 'relative',
          width: SIZE,
          height: SIZE,
          flex: 'none',
          border: 1,
          borderColor: 'edge',
          bgcolor: 'background.paper',
        }}
      >
        <svg width={SIZE} height={SIZE} aria-hidden style={{ position: 'absolute', inset: 0 }}>
          <path d={path} fill="currentColor" fillRule="evenodd" opacity={0.28} />
          <path d={path} fill="none" stroke="currentColor" strokeWidth={1.2} />
        </svg>
        {PLACING_POINTS.map((p) => {
          const [x, y] = onScreen(placingOffset(p, known.b, known.h)),
            chosen = p === point;
          return (
            <Box
              key={p}
              component="button"
              role="radio"
              aria-checked={chosen}
              aria-label={placingWords(p, turn, stands)}
              title={placingWords(p, turn, stands)}
              onClick={() => onChange(p)}
              sx={{
                position: 'absolute',
                left: x - 12,
                top: y - 12,
                width: 24,
                height: 24,
                p: 0,
                border: 0,
                bgcolor: 'transparent',
                cursor: 'pointer',
                '&::after': {
                  content: '""',
                  position: 'absolute',
                  inset: chosen ? 6 : 8,
                  borderRadius: '50%',
                  border: chosen ? 0 : 1,
                  borderColor: 'text.primary',
                  bgcolor: chosen ? 'primary.main' : 'background.paper',
                },
              }}
            />
          );
        })}
      </Box>
      <Typography variant="caption" color="text.secondary">
        Seen from its start: {point === null ? 'several differ' : placingWords(point, turn, stands)}.
      </Typography>
    </Box>
  );
}
