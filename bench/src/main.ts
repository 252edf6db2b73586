import { isMainThread } from 'node:worker_threads';

// The same bundle is what the threads of a benchmark run.
if (isMainThread) await import('./index');
else await import('./bakingThread');
