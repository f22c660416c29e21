import { kindCode } from '../../linework/index.ts';
import { readFigure } from '../../units/index.ts';
import type { Components } from '../components.ts';
import { sheetFromPixel, type Raster } from '../raster.ts';
import type { RecognisedText } from './recognised-text.ts';
import { alike, corrected, withRaised } from './corrected.ts';
import type { TextBlock } from './text-blocks.ts';
import { ownersOf, textImage, type TextImage } from './text-image.ts';

/** Reads one line of text from a picture; confidence 0 to 100. `only`: the characters that it may consist of. */
export type Recogniser = (
  image: TextImage,
  only: string | null,
) => Promise<{ text: string; confidence: number }>;

/** A recogniser from an engine that takes grey maps and can be held to some characters: it is only told when that changes. */
export function recogniserOf(
  holdTo: (only: string) => Promise<unknown>,
  recognise: (pgm: Uint8Array) => Promise<{ text: string; confidence: number }>,
): Recogniser {
  let now: string | null = null;
  return async (image, only) => {
    if (only !== now) {
      now = only;
      await holdTo(only ?? '');
    }
    const { text, confidence } = await recognise(pgmOf(image));
    return { text, confidence };
  };
}

/** What figures of lengths are written with. */
const FIGURE_CHARACTERS = '0123456789.,\'"-/ ';

/** What is read with less confidence is no text. */
const LEAST_CONFIDENCE = 60;
/** From here on the other way up need not be tried. */
const GOOD_CONFIDENCE = 80;
const MOST_BLOCKS = 2500;
/** Height of digits and capitals as a share of the em. */
const CAPITAL = 0.72;

/** Recognises the texts of a page, one block after the other; what cannot be read at first is read again as a figure. */
export async function recogniseTexts(
  raster: Raster,
  components: Components,
  blocks: readonly TextBlock[],
  recogniser: Recogniser,
  progress: (share: number) => void = () => {},
): Promise<RecognisedText[]> {
  const out: RecognisedText[] = [],
    unread: TextBlock[] = [];
  const wanted = blocks.filter((b) => b.glyphs >= 2).slice(0, MOST_BLOCKS);
  const owner = ownersOf(components, raster);
  let done = 0;
  const take = async (block: TextBlock, only: string | null) => {
    progress(done++ / (wanted.length + unread.length));
    const { text, confidence, turned } = await readUpright(
      raster,
      components,
      owner,
      block,
      recogniser,
      only,
    );
    const read = withRaised(corrected(text.trim()), components, block, turned);
    // A figure is told by its form, however little recognition trusts its primes: it may agree, but proves nothing wrong.
    if (only === null ? read === '' || confidence < LEAST_CONFIDENCE : !isFigure(read)) return false;
    out.push(
      pageText(raster, block, read, turned, confidence, only === null && isClear(raster, block, owner)),
    );
    return true;
  };
  for (const block of wanted) if (!(await take(block, null))) unread.push(block);
  for (const block of unread) await take(block, FIGURE_CHARACTERS);
  progress(1);
  alike(out);
  return joinParts(out);
}

/** Feet and what follows them behind a dash may be read as two texts: 11- and 10 1/2". */
function joinParts(texts: readonly RecognisedText[]): RecognisedText[] {
  const gone = new Set<RecognisedText>();
  for (const a of texts) {
    if (!/^\d{1,3}\s*['’]?\s*-\s*$/.test(a.text)) continue;
    const ux = Math.cos(a.radians),
      uy = Math.sin(a.radians);
    const next = texts.find((b) => {
      const dx = b.x - a.x,
        dy = b.y - a.y,
        along = dx * ux + dy * uy - a.width;
      return (
        b !== a &&
        !gone.has(b) &&
        /^\d{1,2}(\s+\d+\/\d+)?"$/.test(b.text) &&
        Math.abs(Math.sin(b.radians - a.radians)) < 0.05 &&
        along > -0.3 * a.height &&
        along < 1.2 * a.height &&
        Math.abs(dx * uy - dy * ux) < 0.4 * a.height
      );
    });
    if (!next) continue;
    gone.add(next);
    a.text = corrected(`${a.text.trim()}${next.text}`);
    a.width = (next.x - a.x) * ux + (next.y - a.y) * uy + next.width;
    a.confidence = Math.min(a.confidence, next.confidence);
    a.clear = false;
  }
  return texts.filter((t) => !gone.has(t));
}

/** A length of at least three digits, or one in feet and inches. */
const isFigure = (text: string) =>
  readFigure(text)?.kind === 'length' &&
  ((text.match(/\d/g) ?? []).length >= 3 || /^\d+'-?\d+.*"$/.test(text));

/** Upright text may be read from either side: the better reading counts. */
async function readUpright(
  raster: Raster,
  components: Components,
  owner: Int32Array,
  block: TextBlock,
  recogniser: Recogniser,
  only: string | null,
): Promise<{ text: string; confidence: number; turned: boolean }> {
  const first = await recogniser(textImage(raster, components, owner, block), only);
  if (first.confidence >= GOOD_CONFIDENCE || Math.abs(Math.sin(block.radians)) < 0.7)
    return { ...first, turned: false };
  const other = await recogniser(textImage(raster, components, owner, block, true), only);
  return other.confidence > first.confidence ? { ...other, turned: true } : { ...first, turned: false };
}

function pageText(
  raster: Raster,
  block: TextBlock,
  text: string,
  turned: boolean,
  confidence: number,
  clear: boolean,
): RecognisedText {
  const radians = turned ? block.radians + Math.PI : block.radians;
  const ux = Math.cos(radians),
    uy = -Math.sin(radians);
  // From the middle back by half the length, and down by half the height (pixels: y down).
  const [x, y] = sheetFromPixel(
    raster,
    block.x - (ux * block.length) / 2 - (uy * block.height) / 2,
    block.y - (uy * block.length) / 2 + (ux * block.height) / 2,
  );
  return {
    text,
    object: 0,
    kind: kindCode('text'),
    x,
    y,
    height: block.height / CAPITAL / raster.scale,
    radians,
    layer: -1,
    width: block.length / raster.scale,
    confidence,
    clear,
  };
}

/** Is there no ink of others where the row would go on? */
function isClear({ width, height }: Raster, block: TextBlock, owner: Int32Array): boolean {
  const own = new Set(block.members),
    ux = Math.cos(block.radians),
    uy = -Math.sin(block.radians),
    h = block.height;
  for (const side of [1, -1]) {
    for (let t = block.length / 2; t <= block.length / 2 + 0.5 * h; t++) {
      for (let v = -0.42 * h; v <= 0.42 * h; v++) {
        const x = Math.floor(block.x + side * t * ux - v * uy),
          y = Math.floor(block.y + side * t * uy + v * ux);
        if (
          x >= 0 &&
          y >= 0 &&
          x < width &&
          y < height &&
          owner[y * width + x] >= 0 &&
          !own.has(owner[y * width + x])
        )
          return false;
      }
    }
  }
  return true;
}

/** A picture as a binary grey map (PGM), which recognition takes. */
function pgmOf({ width, height, grey }: TextImage): Uint8Array {
  const head = new TextEncoder().encode(`P5\n${width} ${height}\n255\n`);
  const bytes = new Uint8Array(head.length + grey.length);
  bytes.set(head);
  bytes.set(grey, head.length);
  return bytes;
}
