/** What a page has played. */
export interface Heard {
  readonly contexts: AudioContext[];
  /** When sounds were begun, on the clock of their context, and at which second of their file. */
  readonly starts: [when: number, offset: number][];
}

/** Has the page remember what it has played. */
export function listen(): void {
  const heard: Heard = { contexts: [], starts: [] };
  Object.assign(window, { heard });
  const { AudioContext: Context } = window;
  window.AudioContext = class extends Context {
    constructor(options?: AudioContextOptions) {
      super(options);
      heard.contexts.push(this);
    }
  };
  const start = AudioBufferSourceNode.prototype.start;
  AudioBufferSourceNode.prototype.start = function (when = 0, offset = 0) {
    if (this.context instanceof Context) heard.starts.push([when, offset]);
    start.call(this, when, offset);
  };
}
