import { writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { FURNITURE, K, plan, type Plan } from '../core/test/given-seen.ts';
import { allSaved, dropFile, entities, newProject } from './bench.ts';
import { pdfOf, words } from './pdf-sheet.ts';

interface WallThere {
  id: string;
  from: [number, number];
  to: [number, number];
  thickness: number;
  openings?: { from: [number, number]; to: [number, number] }[] | null;
}

/** A house at 1:100, as it stands in one issue, so far from the corner of its page. */
const issue = (of: Partial<Plan>, at: number): string =>
  pdfOf(
    `${[
      { lines: plan(of), width: 0.9 },
      { lines: FURNITURE, width: 0.3 },
    ]
      .flatMap(({ lines, width }) => [
        `${width} w`,
        ...lines
          .map(([p, q]) => [p, q].map(([x, y]) => `${(at + x * K).toFixed(4)} ${(at + y * K).toFixed(4)}`))
          .map(([p, q]) => `${p} m ${q} l S`),
      ])
      .join('\n')}\n${words('Scale 1:100', 20, 20)}`,
    [620, 460],
  );

const inner = async (page: Page) =>
  (await entities<WallThere>(page, 'wall')).filter((w) => w.thickness < 200);
const upright = async (page: Page) => (await inner(page)).find((w) => Math.abs(w.from[0] - w.to[0]) < 1)!;

test('a newer issue tells what walls and openings changed; each is taken, refused, undone, or all at once', async ({
  page,
}, info) => {
  const desk = page.locator('section[aria-label^="The sheet"]'),
    changes = page.getByTestId('issue-changes'),
    [first, second] = ['ground-a.pdf', 'ground-b.pdf'].map((name) => info.outputPath(name));
  writeFileSync(first, issue({}, 100));
  writeFileSync(second, issue({ x: 5400, door: [1000, 1900], across: 5500 }, 120));
  await newProject(page, 'Two issues');
  await dropFile(page, first);
  await page.getByLabel(/^at a stated scale/).click({ timeout: 40000 });
  await page.getByRole('button', { name: 'Lay at the origin' }).click();
  await allSaved(page);
  await page.keyboard.press('3');
  await page.getByRole('button', { name: 'See what the plan shows' }).click();
  await page
    .getByTestId('seen')
    .getByRole('button', { name: /^Take \d+ walls/ })
    .click({ timeout: 30000 });
  await allSaved(page);
  const before = await upright(page);

  await test.step('compared, it says what changed, and offers nothing before the issue is taken', async () => {
    await page.keyboard.press('1');
    await dropFile(page, second);
    await desk.getByRole('button', { name: 'New issue' }).click({ timeout: 40000 });
    await desk.getByLabel('Newer page').click();
    await page.getByRole('option', { name: 'ground-b.pdf' }).click();
    await desk.getByRole('button', { name: 'Compare' }).click();
    await expect(changes).toContainText(/one wall moved by 400\smm/, { timeout: 40000 });
    await expect(changes).toContainText('one wall longer');
    await expect(changes).toContainText('take the new issue first');
    await expect(changes.getByRole('button')).toHaveCount(0);
    await page.getByRole('button', { name: 'Take the new issue' }).click();
  });

  await test.step('the wall is taken with its door, one undo puts it back and it is offered again', async () => {
    const take = changes.getByRole('button', { name: /^Take: Wall.*moved by/ });
    await take.click();
    await expect.poll(async () => (await upright(page)).from[0] - before.from[0]).toBeCloseTo(400, 0);
    const [door] = (await upright(page)).openings!;
    expect(door.from[0] - before.openings![0].from[0]).toBeCloseTo(400, 0);
    await expect(take).toHaveCount(0);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await upright(page)).from[0]).toBeCloseTo(before.from[0], 3);
    await expect(take).toHaveCount(1);
  });

  await test.step('one is refused, the rest is taken at once', async () => {
    await changes.getByRole('button', { name: /^Refuse: Wall.*longer/ }).click();
    await expect(changes.getByRole('button', { name: /longer/ })).toHaveCount(0);
    await changes.getByRole('button', { name: /^Take all \d changes/ }).click();
    await expect.poll(async () => (await upright(page)).from[0] - before.from[0]).toBeCloseTo(400, 0);
    const along = (await upright(page)).openings![0];
    expect(Math.abs(along.to[1] - along.from[1])).toBeCloseTo(900, 0);
    expect(Math.abs(along.from[1] - before.openings![0].from[1])).toBeCloseTo(2000, 0);
    await expect(changes).toContainText('All of it is taken or refused');
    // What ran into it ends where it ended.
    const level = (await inner(page)).find((w) => Math.abs(w.from[1] - w.to[1]) < 1)!;
    expect(Math.max(level.from[0], level.to[0]) - before.from[0]).toBeLessThan(5);
  });
});
