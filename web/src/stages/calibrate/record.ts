import { scaleFactorOf } from '@calque/core/calibration';
import { csvText } from '@calque/core/exchange';
import { applyTransform } from '@calque/core/geometry';
import { tracedLength } from '@calque/core/building';
import { ofType, settingsOf, type Check, type Underlay } from '@calque/core/model';
import { describeScale } from '@calque/core/units';
import { checked, isFitted } from '@/project/known';
import type { ProjectSession } from '@/project/session';
import { whoIsIt } from '@/project/who';
import { isImperial } from '@/project/views';
import { saveText } from '@/ui/save-text';

const HEAD = [
  'as typed or printed',
  'known mm',
  'measured mm',
  'difference mm',
  'difference %',
  'traced mm',
  'use',
  'origin',
  'agrees',
  'from x pt',
  'from y pt',
  'to x pt',
  'to y pt',
];

function rowsOf(session: ProjectSession, u: Underlay, checks: readonly Check[]): (string | number)[][] {
  const { model } = session.state;
  const mm = (v: number) => Number(v.toFixed(2));
  return checks.map((c) => {
    const r = checked(u, c);
    const traced = tracedLength(
      model,
      u.planeId,
      applyTransform(u.placement, c.from),
      applyTransform(u.placement, c.to),
    );
    return [
      c.typed,
      mm(c.printed),
      mm(r.measured),
      mm(r.difference),
      Number(r.percent.toFixed(4)),
      traced === null ? '' : mm(traced),
      isFitted(c) ? 'fitted' : 'check',
      c.origin ?? 'picked',
      r.agrees ? 'yes' : 'no',
      ...[...c.from, ...c.to].map(mm),
    ];
  });
}

/** The known dimensions of a sheet as a table for other programs. */
export function exportRecord(session: ProjectSession, u: Underlay, checks: readonly Check[]): void {
  saveText(`${u.name} - calibration.csv`, csvText([HEAD, ...rowsOf(session, u, checks)]), 'text/csv');
}

/** The calibration record as a page to print: sheet, file, fit, dimensions, error, when. */
export function printRecord(session: ProjectSession, u: Underlay, checks: readonly Check[]): void {
  const { model, files } = session.state;
  const file = files.find((f) => f.id === u.fileId);
  const latest = ofType(model, 'calibration')
    .filter((r) => r.underlayId === u.id)
    .sort((a, b) => b.number - a.number)[0];
  const fit = u.calibration?.fit;
  const facts: [string, string][] = [
    ['Project', settingsOf(model).name],
    ['Sheet', u.name],
    ['File', file ? `${file.name}, page ${u.page}` : 'no longer attached'],
    ['Scale', describeScale(scaleFactorOf(u.placement), isImperial(model)).text],
    ...(fit
      ? ([
          ['Fit', `${fit.fitted} dimensions, ${fit.model}`],
          [
            'Error, 95 %',
            `${fit.tenMetres.toFixed(1)} mm in 10 m; ${fit.across.toFixed(1)} mm across the sheet`,
          ],
        ] as [string, string][])
      : []),
    ...(latest
      ? ([
          [
            'Calibrated',
            `${new Date(latest.at).toLocaleString()}${latest.by ? ` by ${latest.by}` : ''} (${latest.label})`,
          ],
        ] as [string, string][])
      : []),
    ['Printed', `${new Date().toLocaleString()}${whoIsIt() ? ` by ${whoIsIt()}` : ''}`],
  ];
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;right:0;bottom:0;width:0;height:0;border:0';
  frame.title = 'Calibration record';
  document.body.append(frame);
  const page = frame.contentDocument!;
  const add = (parent: Element, tag: string, text = '') => {
    const element = page.createElement(tag);
    element.textContent = text;
    parent.append(element);
    return element;
  };
  page.title = `Calibration record - ${u.name}`;
  add(
    page.head,
    'style',
    'body{font:11pt sans-serif;margin:15mm}table{border-collapse:collapse;margin-top:6mm;width:100%}th,td{border-bottom:1px solid #999;padding:1.2mm 2mm;text-align:left;font-size:9.5pt}dl{display:grid;grid-template-columns:35mm 1fr;gap:1mm}dt{color:#555}dd{margin:0}',
  );
  add(page.body, 'h1', 'Calibration record');
  const list = add(page.body, 'dl');
  for (const [name, value] of facts) {
    add(list, 'dt', name);
    add(list, 'dd', value);
  }
  const grid = add(page.body, 'table');
  const columns = 9;
  for (const [i, row] of [HEAD, ...rowsOf(session, u, checks)].entries()) {
    const tr = add(grid, 'tr');
    for (const cell of row.slice(0, columns)) add(tr, i === 0 ? 'th' : 'td', String(cell));
  }
  const view = frame.contentWindow!;
  view.addEventListener('afterprint', () => frame.remove());
  view.focus();
  view.print();
}
