import type { Note } from '@calque/core/model';
import { LEAST_LETTERS, write } from '@/table/painters/letters';
import type { Painter } from '@/table/painters/painter';

export const TEXT_PAINTER: Painter<Note> = {
  strokes: false,
  above({ brush }, e) {
    const pixels = e.height * brush.view.scale;
    if (pixels >= LEAST_LETTERS) write(brush, e.text, e.at, e.angle, pixels, 'left');
  },
};
