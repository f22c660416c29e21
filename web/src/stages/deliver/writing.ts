import { useEffect, useRef, useState } from 'react';
import { makeOfBuilding } from '@/project/building-task';
import { useSession } from '@/project/context';
import { useDelivered } from '@/project/delivered';
import { saveText } from '@/ui/save-text';
import type { BuildingTask } from '@/workers/building-protocol';

/** Formats that are written in a worker: their words, and what browsers call them. */
export const FORMATS = {
  ifc: ['IFC', 'application/x-step'],
  step: ['STEP', 'model/step'],
  shop: ['PDF for the shop', 'application/pdf'],
  glb: ['glTF', 'model/gltf-binary'],
  xlsx: ['workbook', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
} as const;
export type Format = keyof typeof FORMATS;

/** Writes a file in a worker and gives it to the person; one at a time, stopped when the stage is left. */
export function useWriting() {
  const session = useSession();
  const [writing, setWriting] = useState<Format | null>(null);
  const stop = useRef<() => void>(() => {});
  useEffect(() => () => stop.current(), []);
  const write = (task: BuildingTask & { make: Format }, name: string) => {
    const [word, type] = FORMATS[task.make];
    setWriting(task.make);
    const running = makeOfBuilding(session.state.model, task, {
      onEnd: (end) => {
        setWriting(null);
        if ('error' in end) {
          if (end.error.name !== 'Stopped')
            session.tell(`The ${word} was not written: ${end.error.message}`, true);
          return;
        }
        const { bytes } = end.done;
        if (!bytes) {
          session.tell(`There is nothing that the ${word} could hold on this storey.`, true);
          return;
        }
        saveText(task.make === 'shop' ? `${name} shop.pdf` : `${name}.${task.make}`, bytes, type);
        useDelivered.getState().again();
        session.tell(`The ${word} was written.`);
      },
    });
    stop.current = running.stop;
  };
  return { writing, write, stop: () => stop.current() };
}
