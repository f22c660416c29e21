export const say = (...words: readonly unknown[]): void => {
  process.stdout.write(`${words.map(String).join(' ')}\n`);
};
