// The same way in as the command line's.
export { loadKernel } from '../../cli/src/solid-kernel.ts';
