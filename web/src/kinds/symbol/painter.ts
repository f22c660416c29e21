import { symbolLetters, type SymbolMark } from '@calque/core/model';
import { LEAST_LETTERS, write } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';

export const SYMBOL_PAINTER: Painter<SymbolMark> = {
  strokes: true,
  above({ brush }, e) {
    const letters = symbolLetters(e),
      pixels = letters ? letters.height * brush.view.scale : 0;
    if (letters && pixels >= LEAST_LETTERS) write(brush, e.text, letters.at, letters.angle, pixels, 'left');
  },
};
