// Draws the sheets anew: `npx tsx reader/test/hands/draw/make.ts` (needs Debian's ghostscript, librsvg2-bin and chromium).
import { mkdirSync, writeFileSync } from 'node:fs';
import type { Hand } from './hand.ts';
import * as apart from './apart.ts';
import * as harsh from './harsh.ts';
import * as parts from './parts.ts';
import * as plans from './plans.ts';
import * as sites from './sites.ts';
import { byChromium, byGhostscript, byLibrary, byRsvg, type Producer } from './producers.ts';

const SHEETS: Record<string, Record<string, [() => Hand[], Producer]>> = {
  tuned: {
    'boat-store-cm': [plans.boatStore, byRsvg('Liberation Sans')],
    'club-rooms-cm': [plans.clubRooms, byChromium()],
    'oar-rack-crowded': [plans.oarRack, byGhostscript()],
    'boathouse-details': [plans.boathousePlan, byRsvg('Liberation Sans')],
    'duct-plan-feet': [plans.ductPlan, byRsvg('DejaVu Sans Mono', true)],
    'cover-and-schedule': [plans.coverAndSchedule, byLibrary()],
    'bracket-inches': [parts.bracketInches, byGhostscript('Helvetica-Narrow')],
    'trestle-fractions': [parts.trestleFractions, byLibrary(3)],
    'plate-ordinates': [parts.platesOrdinates, byLibrary()],
    'gate-rounds': [parts.gateRounds, byRsvg()],
    'riverside-bar': [sites.riverside, byRsvg('Liberation Sans')],
    'elevations-bar': [sites.elevations, byChromium('DejaVu Sans')],
    'parcel-boundaries': [sites.parcel, byChromium()],
    'slipway-bar': [sites.slipway, byGhostscript()],
    'setting-out-running': [harsh.settingOut, byRsvg('Liberation Sans')],
    'reduced-frame': [harsh.reducedFrame, byGhostscript()],
    'dormer-feet': [harsh.dormerFeet, byChromium()],
    'old-survey': [harsh.oldSurvey, byLibrary()],
    oarlock: [harsh.oarlock, byRsvg('Liberation Sans')],
  },
  apart: {
    'galley-joinery': [harsh.galleyJoinery, byChromium('Liberation Sans Narrow')],
    'cafe-cm': [apart.cafe, byGhostscript()],
    spindle: [apart.spindle, byRsvg('Liberation Sans')],
    'jetty-bar': [apart.jetty, byLibrary(2)],
    'portal-feet': [apart.portal, byChromium('DejaVu Sans')],
    'lots-feet': [apart.lots, byGhostscript('Courier')],
    'deck-details': [apart.deck, byChromium('Liberation Serif')],
    'title-page': [apart.titlePage, byRsvg()],
  },
  // What it says depends on an answer.
  asked: { 'cleat-unsaid': [parts.cleatUnsaid, byLibrary()] },
};

const folder = new URL('../', import.meta.url),
  only = process.argv[2];
for (const [set, sheets] of Object.entries(SHEETS)) {
  mkdirSync(new URL(`${set}/`, folder), { recursive: true });
  const truth: Record<string, unknown> = {};
  for (const [name, [draw, write]] of Object.entries(sheets)) {
    const pages = draw();
    truth[name] = pages.map((p) => p.truth);
    if (!only || name.includes(only))
      writeFileSync(new URL(`${set}/${name}.pdf`, folder), await write(pages));
  }
  const rounded = JSON.stringify(truth, (_, v: unknown) =>
    typeof v === 'number' ? Math.round(v * 1e4) / 1e4 : v,
  )
    .replace(/(\{"text")/g, '\n  $1')
    .replace(/("[a-z-]+":\[\{"dim)/g, '\n$1');
  writeFileSync(new URL(`${set}/truth.json`, folder), `${rounded}\n`);
}
