import { PICTURES, type Picture } from '@/commands/pictures';

/** A small drawing of what an instrument makes; its word stands beside or below it. */
export function Drawn({ picture, size = 40 }: { picture: Picture; size?: number }) {
  return (
    <svg
      width={size}
      height={(size * 26) / 40}
      viewBox="0 0 40 26"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden
    >
      <path d={PICTURES[picture]} />
    </svg>
  );
}
