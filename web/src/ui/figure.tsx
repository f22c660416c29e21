import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';

/** A result with its name, set as in a printed table. */
export function Figure({ label, value, colour }: { label: string; value: string; colour?: string }) {
  return (
    <Box>
      <Typography variant="caption" color="text.secondary" sx={{ display: 'block' }}>
        {label}
      </Typography>
      <Typography sx={{ fontSize: 17, fontWeight: 650, color: colour, lineHeight: 1.25 }}>{value}</Typography>
    </Box>
  );
}
