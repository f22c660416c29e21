import { readFileSync } from 'node:fs';
import {
  pictureOffers,
  pixelsPerMillimetre,
  readPicture,
  type PictureReading,
  type Recogniser,
} from '@calque/core/ink';
import { readRaster, type ReadPage } from '@calque/reader';

/** Large scans are drawn with four bytes a pixel before they are grey. */
const RASTER_MEMORY_MB = 1024;

/** Reads figures from the pictures of pages whose texts tell no scale; recognition starts with the first that needs it. */
export class Pictures {
  private recogniser: { read: Recogniser; stop(): Promise<unknown> } | null = null;
  constructor(
    private readonly file: string,
    private readonly password: string | undefined,
  ) {}

  async read(page: number, linework: ReadPage['linework']): Promise<PictureReading | null> {
    const offers = pictureOffers(linework);
    if (!offers || linework.reference) return null;
    const { raster, isPicture } = await readRaster(new Uint8Array(readFileSync(this.file)), page, linework, {
      password: this.password,
      maxMegabytes: RASTER_MEMORY_MB,
    });
    this.recogniser ??= await (await import('./recogniser.ts')).startRecogniser();
    return readPicture(raster, {
      lines: offers === 'scan',
      perMillimetre: pixelsPerMillimetre(raster, isPicture),
      recogniser: this.recogniser.read,
    });
  }

  close = async () => {
    await this.recogniser?.stop();
  };
}
