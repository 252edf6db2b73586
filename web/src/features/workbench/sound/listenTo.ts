import { soundBuffer } from '../../../data/sounds';
import { audio } from './audio';

/**
 * Plays a sound of the library once.
 *
 * @param over called when it ends, or is ended; with what went wrong, or null
 * @returns ends it
 */
export function listenTo(source: string, over: (error: unknown) => void): () => void {
  const { context, master } = audio();
  let node: AudioBufferSourceNode | null = null;
  let isOver = false;
  const finish = (error: unknown): void => {
    if (isOver) return;
    isOver = true;
    node?.disconnect();
    over(error);
  };
  soundBuffer(source).then((buffer) => {
    if (isOver) return;
    node = new AudioBufferSourceNode(context, { buffer });
    node.connect(master);
    node.onended = () => finish(null);
    node.start();
  }, finish);
  return () => {
    node?.stop();
    finish(null);
  };
}
