import { encodeLinework } from '@calque/core/linework';
import { buildSheetIndex, indexBytes } from '@calque/core/snapping';
import { endWithParent } from '@calque/limits';
import { asFailure, readFile } from '@calque/reader';

/** Reads files as the reading child does, one after the other, and says how each ended. */
export interface FuzzTask {
  n: number;
  bytes: Uint8Array;
}
export interface FuzzAnswer {
  n: number;
  end: string;
  message: string;
}

endWithParent();
const ENGINE_MB = 300,
  PICTURE_PIXELS = 200;
process.on('message', (task: FuzzTask) => {
  void read(task).then((answer) => process.send!(answer));
});

async function read({ n, bytes }: FuzzTask): Promise<FuzzAnswer> {
  try {
    await readFile(
      bytes,
      { maxMegabytes: ENGINE_MB, picturePixels: PICTURE_PIXELS, keepHidden: true, millimetresPerUnit: 1 },
      () => {},
      ({ linework }) => {
        encodeLinework(linework, indexBytes(buildSheetIndex(linework)));
      },
    );
    return { n, end: 'read', message: '' };
  } catch (error) {
    const { code, message } = asFailure(error);
    return { n, end: code, message };
  }
}
