/** Limits of reading; each is an environment variable with a sane default (see docs/architecture.md). */
export function settings() {
  const number = (name: string, usual: number) => {
    const value = Number(process.env[name]);
    return Number.isFinite(value) && value > 0 ? value : usual;
  };
  return {
    engineMegabytes: number('CALQUE_ENGINE_MB', 640),
    heapMegabytes: number('CALQUE_HEAP_MB', 1024),
    secondsPerPage: number('CALQUE_PAGE_SECONDS', 60),
    picturePixels: number('CALQUE_PICTURE_PIXELS', 560),
    atOnce: number('CALQUE_READERS', 2),
  };
}
