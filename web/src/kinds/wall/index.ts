import { inStage, needsChosen, needsStorey } from '@/commands/command';
import type { Wall } from '@calque/core/model';
import type { Face } from '../face';
import { WallFields } from './fields';
import { flipAlignment, takeThicknessTool, takeWallTool } from './wall-tool';
import { takeWallCornerTool } from './corner-tool';
import { takeOpeningTool } from './opening-tool';
import { makeWalls, takeWallArc, takeWallRectangle, wallsToLines } from './walls-of';

export const WALL_FACE: Face<Wall> = {
  commands: (hands) => {
    const { table } = hands;
    return [
      {
        id: 'wall',
        words: 'Draw walls',
        short: 'Wall',
        group: 'Tools',
        key: 'w',
        tool: 'wall',
        on: ['building'],
        picture: 'wall',
        ...needsStorey(hands, 'Walls stand'),
        run: inStage(hands, 'trace', () => takeWallTool(table)),
      },
      {
        id: 'wall-rectangle',
        words: 'Draw four walls as a rectangle, by two corners or three points',
        short: 'Four walls',
        key: 'r',
        on: ['building'],
        picture: 'wall-rectangle',
        also: 'room box walls rectangular',
        group: 'Tools',
        tool: 'wall-rectangle',
        ...needsStorey(hands, 'Walls stand'),
        run: inStage(hands, 'trace', () => takeWallRectangle(table)),
      },
      {
        id: 'wall-arc',
        words: 'Draw a bent wall, through three points or by its ends and a radius',
        short: 'Bent wall',
        on: ['building'],
        picture: 'wall-arc',
        also: 'curved round arc wall',
        group: 'Tools',
        tool: 'wall-arc',
        ...needsStorey(hands, 'Walls stand'),
        run: inStage(hands, 'trace', () => takeWallArc(table)),
      },
      {
        id: 'opening',
        words: 'Put a door, a window, a gap or a niche into a wall, as the plan shows it or by typed figures',
        short: 'Opening',
        key: 'o',
        on: ['building'],
        picture: 'opening',
        also: 'door window gap hole niche recess',
        group: 'Tools',
        tool: 'opening',
        ...needsStorey(hands, 'Openings are put'),
        run: inStage(hands, 'trace', () => takeOpeningTool(table)),
      },
      {
        id: 'wall-corner',
        words: 'Choose how two walls part a corner: mitred, or one runs through',
        short: 'Wall corner',
        on: ['building'],
        picture: 'wall-corner',
        also: 'mitre butt join corner finish through',
        group: 'Tools',
        tool: 'wall-corner',
        ...needsStorey(hands, 'Walls stand'),
        run: inStage(hands, 'trace', () => takeWallCornerTool(table)),
      },
      {
        id: 'thickness',
        words: 'Measure a wall thickness on the plan',
        short: 'Thickness',
        on: ['building'],
        picture: 'thickness',
        group: 'Tools',
        key: 't',
        tool: 'thickness',
        run: inStage(hands, 'trace', () => takeThicknessTool(table)),
      },
      {
        id: 'flip',
        words:
          'Another way of the drawing tool in hand; or flip the alignment of walls: centre, left face, right face',
        group: 'Tools',
        key: 'f',
        fixedKey: true,
        repeats: false,
        run: () => flipAlignment(table),
      },
      {
        id: 'make-walls',
        words: 'Make walls of the lines, paths, arcs and outlines that are selected',
        short: 'To walls',
        on: ['change'],
        picture: 'make-walls',
        rank: 7,
        also: 'make these walls convert into walls lines to walls',
        group: 'Edit',
        why: () => needsStorey(hands, 'Walls stand').why!() ?? needsChosen(hands).why!(),
        run: inStage(hands, 'trace', () => makeWalls(table)),
      },
      {
        id: 'wall-lines',
        words: 'Make lines of the walls that are selected',
        short: 'To lines',
        on: ['change'],
        picture: 'wall-lines',
        rank: 7,
        also: 'walls back to lines convert',
        group: 'Edit',
        ...needsChosen(hands),
        run: inStage(hands, 'trace', () => wallsToLines(table)),
      },
    ];
  },
  Fields: WallFields,
};
