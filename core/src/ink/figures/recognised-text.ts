import type { PageText } from '../../linework/index.ts';

/** A text that was read from outlines or pixels. `clear`: no other ink stands where a further letter would, so it is surely whole. */
export interface RecognisedText extends PageText {
  confidence: number;
  clear: boolean;
}
