/** What a program that writes says of itself: the address that it writes to (docs/operating.md). */
export const ours = (url: string): { origin: string } => ({ origin: new URL(url).origin });
