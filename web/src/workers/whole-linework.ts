/// <reference lib="webworker" />
import { decodeLinework, WHOLE, type Linework, type Whole } from '@calque/core/linework';

/** How often a page of which the lines came first is asked for again, and for how long. */
const AGAIN_MS = 300,
  LONGEST_MS = 180000;

/**
 * A sheet's linework with its hatches and dimensions told apart. Where only its lines are there yet the rest is waited for: what is
 * concluded from a page (a scale, walls, a comparison) is concluded from all of it. Throws in words.
 */
export async function wholeLinework(url: string): Promise<Linework> {
  for (const began = performance.now(); ;) {
    const response = await fetch(url);
    if (!response.ok) throw new Error('The sheet cannot be fetched from the server.');
    const whole = response.headers.get(WHOLE) as Whole | null;
    if (whole !== 'later' && whole !== 'never') return decodeLinework(await response.arrayBuffer()).linework;
    await response.body?.cancel();
    if (whole === 'never')
      throw new Error(
        'Reading this page broke off before its hatches and dimensions were known. Have its file read again.',
      );
    if (performance.now() - began > LONGEST_MS)
      throw new Error('This page is still being read. Try it again when its picture is there.');
    await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
  }
}
