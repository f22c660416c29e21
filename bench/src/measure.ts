import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';

import { median } from './quantile.ts';

export { median, quantile } from './quantile.ts';

export interface Run {
  seconds: number;
  peakMegabytes: number;
}

/** Runs a program to its end; wall time and the peak of its resident memory, read off the kernel every few milliseconds. */
export function timed(program: string, args: string[]): Promise<Run> {
  return new Promise((resolve, reject) => {
    const began = performance.now();
    const child = spawn(program, args, { stdio: 'ignore' });
    let peak = 0;
    const look = () => {
      try {
        const line = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'));
        if (line) peak = Math.max(peak, Number(line[1]));
      } catch {
        // It has just ended.
      }
    };
    const timer = setInterval(look, 10);
    child.on('error', reject);
    child.on('exit', (code) => {
      clearInterval(timer);
      if (code === 0) resolve({ seconds: (performance.now() - began) / 1000, peakMegabytes: peak / 1024 });
      else reject(new Error(`${program} ended with ${code}.`));
    });
  });
}

export async function medianRun(program: string, args: string[], runs: number): Promise<Run> {
  const all: Run[] = [];
  for (let i = 0; i < runs; i++) all.push(await timed(program, args));
  return {
    seconds: median(all.map((r) => r.seconds)),
    peakMegabytes: Math.max(...all.map((r) => r.peakMegabytes)),
  };
}
