import 'server-only';

/** Whoever takes nothing for so long is cut off. */
const STANDING_MS = 60000;
/** Bytes handed on at once: who takes less than this within the time stands still. */
const PIECE = 256 << 10;

/** Bytes as a response body that is read as fast as it is taken, and given up when it is not. */
export function takenStream(
  source: AsyncGenerator<Uint8Array>,
  onEnd: () => void = () => {},
): ReadableStream<Uint8Array> {
  let rest: Uint8Array | null = null;
  let standing: NodeJS.Timeout;
  const end = async () => {
    clearTimeout(standing);
    await source.return(undefined).catch(() => {});
    onEnd();
  };
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        clearTimeout(standing);
        try {
          if (!rest) {
            const { value, done } = await source.next();
            if (done) {
              controller.close();
              onEnd();
              return;
            }
            rest = value;
          }
          const piece: Uint8Array = rest.subarray(0, PIECE);
          rest = rest.length > PIECE ? rest.subarray(PIECE) : null;
          controller.enqueue(piece);
          standing = setTimeout(() => {
            controller.error(new Error('Nobody takes this answer.'));
            void end();
          }, STANDING_MS);
        } catch (error) {
          controller.error(error);
          await end();
        }
      },
      cancel: end,
    },
    { highWaterMark: 0 },
  );
}
