import { numberSetting } from '@calque/limits';

/** Limits of reading; each is an environment variable with a sane default (see docs/architecture.md). */
export function settings() {
  const engineMegabytes = numberSetting('CALQUE_ENGINE_MB', 640),
    heapMegabytes = numberSetting('CALQUE_HEAP_MB', 1024);
  return {
    engineMegabytes,
    heapMegabytes,
    /** Of the child as a whole: pictures are worked on beside heap and engine. */
    megabytes: numberSetting('CALQUE_CHILD_MB', Math.max(1600, engineMegabytes + heapMegabytes)),
    secondsPerPage: numberSetting('CALQUE_PAGE_SECONDS', 60),
    secondsPerFile: numberSetting('CALQUE_FILE_SECONDS', 1200),
    picturePixels: numberSetting('CALQUE_PICTURE_PIXELS', 560),
    /** Children that wait ready for a file. */
    warm: numberSetting('CALQUE_WARM', 1),
    /** Files of one project read at once; one more place is kept for other projects. */
    atOnce: numberSetting('CALQUE_READERS', 2),
  };
}
