import type { PageText } from '../../linework/index.ts';
import type { BareUnit } from '../../units/index.ts';

const UNIT_WORDS: [RegExp, BareUnit][] = [
  [/^(?:mm|millim\w*|milim\w*)\b/i, 'mm'],
  [/^(?:cm|centim\w*|zentim\w*|sentim\w*)\b/i, 'cm'],
  [/^(?:m|met(?:er|re)s?|mètres?|metros?|metri|meter)\b/i, 'm'],
  [/^(?:in|ins|inch(?:es)?|zoll|pouces?|pulgadas?)\b/i, 'in'],
  [/^(?:ft|feet|foot|pieds?)\b/i, 'ft'],
];
/** What begins a note on the unit of a sheet's figures, in the languages that plans come in. */
const BEGINNING =
  /\b(?:dimensions?|dims?\.?|measurements?|sizes|distances|figures|units?|ma(?:ß|ss)(?:e|angaben)|bema(?:ß|ss)ung|cotes?|dimensioni|misure|quote|cotas?|medidas?|maten|afmetingen|mått|mål|mitat|wymiary)\b/i;
const BETWEEN =
  /^[\s:=]*(?:(?:are|is|shown|given|unless|otherwise|noted|specified|stated|sind|angegeben|alle|exprimées?|expresad[ao]s|wszystkie|all|to\s+be|,|\.|\(|sont|son|sono)[\s:=]*)*(?:in|en|i|w|:|=)?\s*/i;

/** What a note says that the sheet's figures are in ("ALL DIMENSIONS ARE IN INCHES", "Maße in cm"); null where none says it, or two differ. */
export function unitNoted(texts: readonly Pick<PageText, 'text'>[]): BareUnit | null {
  const said = new Set<BareUnit>();
  texts.forEach(({ text }, i) => {
    const found = BEGINNING.exec(text);
    if (!found) return;
    // A note may be broken over two lines.
    const rest = `${text.slice(found.index + found[0].length)} ${texts[i + 1]?.text ?? ''}`;
    const unit = unitAt(rest.replace(BETWEEN, ''), rest);
    if (unit) said.add(unit);
  });
  return said.size === 1 ? [...said][0] : null;
}

function unitAt(tail: string, whole: string): BareUnit | null {
  // The word "in" opens many notes: it is a unit only where nothing follows that is one.
  const candidates = [tail, whole.replace(/^[\s:=]+/, '')];
  for (const c of candidates) for (const [word, unit] of UNIT_WORDS) if (word.test(c)) return unit;
  return null;
}
