'use client';

import { useEffect, useState } from 'react';
import { api } from './api';
import type { HealthAnswer } from './wire';

/** How often it is asked while somebody waits. */
const ASK_MS = 4000;

/** What is wrong with the part of the installation that somebody waits for, in words; null where nothing is, or nothing is known. */
export function useTrouble(part: string, waiting: boolean): string | null {
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (!waiting) return;
    let over = false;
    const ask = () =>
      void api.health().then(
        (answer) => {
          if (!over) setTrouble(troubleOf(answer, part));
        },
        () => {},
      );
    ask();
    const timer = setInterval(ask, ASK_MS);
    return () => {
      over = true;
      clearInterval(timer);
      setTrouble(null);
    };
  }, [part, waiting]);
  return trouble;
}

export function troubleOf({ parts }: HealthAnswer, name: string): string | null {
  const part = parts.find((p) => p.name === name);
  if (!part || part.state === 'running') return null;
  return part.state === 'restarting'
    ? `The ${name} is being started again.`
    : `The ${name} ends as soon as it is started (${part.why ?? 'no reason given'}). It is tried again by itself; whoever runs this installation finds more in its log.`;
}
