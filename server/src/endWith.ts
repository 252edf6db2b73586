/** Ends the process in good order when it is told to; told once more, at once. */
export function endWith(close: () => Promise<void>): void {
  let isEnding = false;
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (isEnding) process.exit(1);
      isEnding = true;
      void close().finally(() => process.exit(0));
    });
  }
}
