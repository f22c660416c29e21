import { exactStyle, formatLengthWithUnit, formatNumber, type LengthStyle } from '../../units/index.ts';
import { isCircle, type Model, type Rule, type RulePlace } from '../../model/index.ts';
import { centreGrip, isRuled } from './of-plane.ts';

const WORDS: Readonly<Record<Rule['kind'], string>> = {
  together: 'together',
  level: 'level',
  upright: 'upright',
  parallel: 'parallel',
  square: 'square to one another',
  touching: 'touching',
  equal: 'equal',
  concentric: 'about one centre',
  middle: 'at the middle',
  on: 'on the line',
  symmetric: 'symmetric',
  fixed: 'fixed',
  length: 'length',
  across: 'across',
  up: 'up',
  gap: 'gap',
  angle: 'angle',
  radius: 'radius',
  diameter: 'diameter',
};

/** What a place of a rule is, in a word or two: "line", "end of an arc", "centre of a circle". */
function placeWord(model: Model, { id, grip }: RulePlace): string {
  const e = model.get(id);
  if (!e || !isRuled(e)) return 'what is gone';
  const round = e.type === 'arc' && isCircle(e) ? 'circle' : 'arc',
    word = e.type === 'arc' ? round : e.type === 'line' ? 'line' : 'construction line',
    article = /^[aeiou]/.test(word) ? 'an' : 'a';
  if (grip === null) return word;
  if (e.type === 'arc' && grip === centreGrip(e)) return `centre of ${article} ${word}`;
  return `end of ${article} ${word}`;
}

/** A rule in words: "two lines parallel", "length 120 mm". */
export function ruleWords(model: Model, rule: Rule, style: LengthStyle): string {
  if (rule.value !== null) {
    const figure =
      rule.kind === 'angle'
        ? `${formatNumber((rule.value * 180) / Math.PI, 2)}°`
        : formatLengthWithUnit(rule.value, exactStyle(rule.value, style));
    return `${WORDS[rule.kind]} ${figure}`;
  }
  const words = rule.of.map((p) => placeWord(model, p)),
    all = words.length === 2 && words[0] === words[1] ? `two ${plural(words[0])}` : words.join(' and ');
  return `${all} ${WORDS[rule.kind]}`;
}

const plural = (word: string): string =>
  word.replace(/^(end|centre|line|arc|circle|construction line)/, '$1s');
