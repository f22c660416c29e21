'use client';

import { create } from 'zustand';
import type { ShownSolid, StepState } from '@calque/core/forming';
import type { Entity, Model } from '@calque/core/model';
import { featuresOf } from '@calque/core/part';
import { bytesUrl } from '@/project/addresses';
import type {
  AskedOfPart,
  FromPart,
  GivenFile,
  PartAnswers,
  PartFile,
  PartQuestion,
  PartWords,
  ToPart,
} from '@/workers/part-protocol';
import { partEntities } from './part-changes';

/** A part's solid as it is known, and what is being made of it. */
export interface PartState {
  partId: string | null;
  solid: ShownSolid | null;
  states: readonly StepState[];
  /** The step that is being made; null: nothing is. */
  making: { done: number; of: number; name: string } | null;
  /** Why nothing could be made at all. */
  why: string | null;
}

const NOTHING: PartState = { partId: null, solid: null, states: [], making: null, why: null };

export const usePartSolid = create<PartState>(() => NOTHING);

/** What the kernel has not given back is gone with its worker: beyond so many bytes it begins anew. */
const MOST_MEMORY = 1.2e9;

/** The worker that holds the solid of the part that is open: bundled by itself (ops/bundle-worker.mjs). */
class PartWorker {
  private worker: Worker | null = null;
  /** Of what is made. */
  private task = 0;
  /** Of what is asked beside that: downwards, so that no two are one. */
  private asks = 0;
  private memory = 0;
  /** What the solid that was asked for last is made of. */
  private of: readonly Entity[] = [];
  /** What is waited for, by its task. */
  private readonly asked = new Map<number, { done(answer: unknown): void; failed(error: Error): void }>();

  /** Makes the solid of a part as it is in the model, where anything of it has changed. */
  follow(model: Model, partId: string, projectId: string): void {
    this.projectId = projectId;
    if (usePartSolid.getState().partId !== partId) {
      this.close();
      usePartSolid.setState({ ...NOTHING, partId });
    }
    const entities = partEntities(model, partId);
    if (entities.length === this.of.length && entities.every((e, i) => e === this.of[i])) return;
    if (this.memory > MOST_MEMORY && this.asked.size === 0) this.end();
    this.of = entities;
    usePartSolid.setState({ making: { done: 0, of: featuresOf(model, partId).length, name: '' } });
    this.ask({ type: 'rebuild', task: ++this.task, partId, entities, files: this.givenIn(entities) });
  }

  /** The project whose files features take solids from. */
  private projectId = '';

  private givenIn = (entities: readonly Entity[]): GivenFile[] =>
    entities.flatMap((e) =>
      e.type === 'feature' && e.fileId
        ? [{ id: e.fileId, url: new URL(bytesUrl(this.projectId, e.fileId), window.location.href).href }]
        : [],
    );

  /** Ends what is being made at once; what was made before stays in sight. */
  stop(): void {
    this.end();
    usePartSolid.setState({ making: null, why: 'Stopped: what is shown is what was made before.' });
  }

  /** Makes it again from nothing. */
  again(model: Model, partId: string, projectId: string): void {
    this.end();
    usePartSolid.setState({ why: null });
    this.follow(model, partId, projectId);
  }

  private end(): void {
    this.worker?.terminate();
    this.worker = null;
    this.of = [];
    this.memory = 0;
    for (const { failed } of this.asked.values()) failed(new Error('It was stopped.'));
    this.asked.clear();
  }

  /** The bytes of a file; null where there is no solid. */
  write(file: PartFile, words: PartWords): Promise<Uint8Array<ArrayBuffer> | null> {
    return this.answered((task) => ({ type: 'write', task, file, words, at: new Date().toISOString() }));
  }

  /** Asks the solid as it is made last; null where there is none, or nothing there. */
  look<Q extends PartQuestion>(
    about: Q,
    asks: PartAnswers[Q]['asks'],
  ): Promise<PartAnswers[Q]['gives'] | null> {
    return this.answered((task) => ({ type: 'look', task, asked: { about, ...asks } as AskedOfPart }));
  }

  private answered<T>(message: (task: number) => ToPart): Promise<T> {
    return new Promise((done, failed) => {
      const task = --this.asks;
      this.asked.set(task, { done: done as (answer: unknown) => void, failed });
      this.ask(message(task));
    });
  }

  close(): void {
    this.end();
    usePartSolid.setState(NOTHING);
  }

  private ask(message: ToPart): void {
    if (!this.worker) {
      this.worker = new Worker('/engine/part-worker.js', { type: 'module' });
      this.worker.onmessage = ({ data }: MessageEvent<FromPart>) => this.heard(data);
      this.worker.onerror = (event) => {
        event.preventDefault?.();
        const { partId } = usePartSolid.getState();
        this.close();
        usePartSolid.setState({
          ...NOTHING,
          partId,
          why: 'The solid could not be made: its kernel stopped. Reload the page.',
        });
      };
    }
    this.worker.postMessage(message);
  }

  private heard(said: FromPart): void {
    switch (said.type) {
      case 'progress':
        usePartSolid.setState({ making: { done: said.done, of: said.of, name: said.name } });
        break;
      case 'rebuilt':
        this.memory = said.memory;
        usePartSolid.setState({
          solid: said.solid,
          states: said.states,
          why: null,
          // A later change may wait already.
          ...(said.task === this.task && { making: null }),
        });
        break;
      case 'written':
        this.asked.get(said.task)?.done(said.bytes);
        this.asked.delete(said.task);
        break;
      case 'looked':
        this.asked.get(said.task)?.done(said.found);
        this.asked.delete(said.task);
        break;
      case 'failed': {
        const asked = this.asked.get(said.task);
        this.asked.delete(said.task);
        if (asked) asked.failed(new Error(said.why));
        else usePartSolid.setState({ making: null, why: said.why });
      }
    }
  }
}

export const partWorker = new PartWorker();
