import { MIX_RATE } from '../../../data/sounds';

let context: AudioContext | null = null;
let master: GainNode | null = null;

/** What the page is heard through, made when it is first needed: browsers refuse it before the user has done something. */
export function audio(): { readonly context: AudioContext; readonly master: GainNode } {
  if (!context || !master) {
    context = new AudioContext({ sampleRate: MIX_RATE, latencyHint: 'interactive' });
    master = new GainNode(context);
    master.connect(context.destination);
  }
  if (context.state === 'suspended') void context.resume();
  return { context, master };
}

/** The time of what comes out of the loudspeakers now, seconds of the context's clock. */
export const heardNow = (own: AudioContext): number => own.currentTime - (own.outputLatency || 0);
