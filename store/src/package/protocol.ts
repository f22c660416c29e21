/** What the child is told, by its channel: nobody else on the machine sees it there. `given`: the id of the project to pack, or the path of the package to open. */
export type PackageTask = {
  what: 'pack' | 'unpack';
  given: string;
  database: string;
  secret: string | null;
  secretFile: string | null;
};

/** What the child that packs and opens says to the one that started it. */
export type PackageAnswer =
  | { type: 'opened'; id: string }
  | { type: 'packed' }
  | {
      type: 'failure';
      code: 'not-a-package' | 'newer-version' | 'damaged' | 'too-large' | 'no-project' | 'away' | 'server';
      message: string;
    };
