/** A number from the environment; the usual one where none or nonsense is set. */
export function numberSetting(name: string, usual: number): number {
  const value = Number(process.env[name]);
  return Number.isFinite(value) && value > 0 ? value : usual;
}
