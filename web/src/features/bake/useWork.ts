import { useRef, useState } from 'react';
import { describeError } from '../../data/importFiles';

/** Long work, as it is carried out: told of, and ended by a signal. */
export type Work<P> = (progress: (state: P) => void, signal: AbortSignal) => Promise<void>;

/** Runs long work, one piece at a time: how far it is, and in words why it failed. */
export function useWork<P>() {
  const [running, setRunning] = useState<P | null>(null);
  const [message, setMessage] = useState('');
  const abort = useRef<AbortController | null>(null);
  const start = (first: P, work: Work<P>): Promise<void> => {
    const control = new AbortController();
    abort.current = control;
    setRunning(first);
    setMessage('');
    // What is told of work that has ended comes late, by a way of its own.
    let isOver = false;
    const progress = (state: P): void => {
      if (!isOver) setRunning(state);
    };
    return work(progress, control.signal)
      .catch((error) => {
        const { message: text, hint } = describeError(error);
        setMessage(`${text} ${hint}`.trim());
      })
      .finally(() => {
        isOver = true;
        setRunning(null);
      });
  };
  const [cancel] = useState(() => (): void => abort.current?.abort());
  return { running, message, start, cancel };
}
