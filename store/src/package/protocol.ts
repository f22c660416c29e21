/** What the child that packs and opens says to the one that started it. */
export type PackageAnswer =
  | { type: 'opened'; id: string }
  | { type: 'packed' }
  | { type: 'failure'; code: 'not-a-package' | 'newer-version' | 'damaged' | 'too-large' | 'no-project' | 'away' | 'server'; message: string };
