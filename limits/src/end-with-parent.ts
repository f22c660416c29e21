/** Ends this process when the one that started it has gone: the channel between them closes. Long work in one go is ended by the system (see limitedChild). */
export function endWithParent(onEnd: () => void = () => process.exit(1)): void {
  if (process.send) process.once('disconnect', onEnd);
}
