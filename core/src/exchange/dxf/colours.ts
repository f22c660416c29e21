/** The first nine numbered colours; 7 is the drawing's own ink, black on paper. */
const FIRST = [
  0x000000, 0xff0000, 0xffff00, 0x00ff00, 0x00ffff, 0x0000ff, 0xff00ff, 0x000000, 0x414141, 0x808080,
];
const GREYS = [0x333333, 0x505050, 0x696969, 0x828282, 0xbebebe, 0xe0e0e0];
/** Brightness of the five shades of each hue. */
const SHADES = [1, 0.65, 0.5, 0.3, 0.15];

/** 0xRRGGBB of a numbered colour: 24 hues in steps of 15 degrees, five shades each, full and half saturated. An exact colour wins. */
export function dxfColour(index: number, exact?: number): number {
  if (exact !== undefined) return exact & 0xffffff;
  if (index < FIRST.length) return FIRST[Math.max(0, index)];
  if (index >= 250) return GREYS[Math.min(index, 255) - 250];
  const hue = (Math.floor((index - 10) / 10) * 15) / 60,
    step = (index - 10) % 10;
  const value = SHADES[step >> 1] * 255,
    saturation = step % 2 === 0 ? 1 : 0.5;
  const part = (n: number) => {
    const k = (n + hue) % 6;
    return Math.round(value - value * saturation * Math.max(0, Math.min(k, 4 - k, 1)));
  };
  return (part(5) << 16) | (part(3) << 8) | part(1);
}

/** The numbered colour that is nearest to 0xRRGGBB; black is 7, the drawing's own ink. */
export function nearestDxfColour(colour: number): number {
  const channels = (c: number) => [c >> 16, (c >> 8) & 255, c & 255];
  const wanted = channels(colour);
  const miss = (index: number) =>
    channels(dxfColour(index)).reduce((sum, c, i) => sum + (c - wanted[i]) ** 2, 0);
  let best = 7;
  for (let index = 1; index <= 255; index++) if (miss(index) < miss(best)) best = index;
  return best;
}
