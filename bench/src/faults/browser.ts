import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import type { Change, Entity } from '@calque/core/model';
import { wait } from './chance.ts';
import { settled } from './installation.ts';
import { ours } from '../ours.ts';

export const url = process.env.FAULTS_URL!;

export interface Exposed {
  calque: {
    session: {
      do(change: Change, label: string): boolean;
      undo(): void;
      redo(): void;
      state: {
        saved: string;
        asides: readonly unknown[];
        notice: { text: string } | null;
        history: { done: unknown[]; undone: unknown[] };
        model: Map<string, Entity>;
      };
    };
  };
}

/** A browser with a profile of its own, as a person has one. */
export class Browser {
  private readonly profile = mkdtempSync(join(tmpdir(), 'calque-faults-'));
  context!: BrowserContext;

  async open(): Promise<void> {
    await settled();
    this.context = await chromium.launchPersistentContext(this.profile, {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu'],
      viewport: { width: 1280, height: 800 },
    });
  }

  async close(): Promise<void> {
    await this.context.browser()?.close();
    await this.context.close();
  }

  async end(): Promise<void> {
    await this.close();
    rmSync(this.profile, { recursive: true, force: true });
  }

  async page(projectId: string): Promise<Page> {
    await settled();
    const page = await this.context.newPage();
    for (;;) {
      const there = await page
        .goto(`${url}/project/${projectId}`)
        .then(() =>
          page.waitForFunction(
            () =>
              (window as unknown as Partial<Exposed>).calque?.session.state.history.done.length !==
                undefined && document.querySelector('[data-testid=saved]') !== null,
            null,
            { timeout: 15000 },
          ),
        )
        .then(
          () => true,
          () => false,
        );
      if (there) break;
      await settled();
      await wait(200);
    }
    // Undo waits for the steps that were made before.
    await page.waitForFunction(
      () =>
        (window as unknown as { calque: { session: { historyLoaded: boolean } } }).calque.session
          .historyLoaded,
      null,
      { timeout: 60000 },
    );
    return page;
  }

  async newProject(name: string): Promise<string> {
    return (
      (await (
        await this.context.request.post(`${url}/api/projects`, {
          headers: ours(url),
          data: { name, units: 'mm', precision: 0 },
        })
      ).json()) as { id: string }
    ).id;
  }

  async onServer(projectId: string): Promise<Entity[]> {
    return (
      (await (await this.context.request.get(`${url}/api/projects/${projectId}`)).json()) as {
        entities: Entity[];
      }
    ).entities;
  }
}

export const savedState = (page: Page) =>
  page.evaluate(() => (window as unknown as Exposed).calque.session.state.saved);
export const inPage = (page: Page) =>
  page.evaluate(() => [...(window as unknown as Exposed).calque.session.state.model.values()]);
export const allSaved = (page: Page) =>
  page.waitForFunction(() => (window as unknown as Exposed).calque.session.state.saved === 'saved', null, {
    timeout: 120000,
  });
