/** What is used of the package, which has no types. */
declare module 'music-tempo' {
  interface Parameters {
    readonly bufferSize: number;
    readonly hopSize: number;
    readonly timeStep: number;
  }

  export default class MusicTempo {
    constructor(samples: number[], parameters: Parameters);
    /** Beats a minute, as a text. */
    readonly tempo: string | number;
    /** Seconds. */
    readonly beats: readonly number[];
  }
}

declare module 'music-tempo/dist/node/FFT.js' {
  /** The Fourier transform that the package works with. */
  export default class FFT {}
}

declare module 'music-tempo/dist/node/OnsetDetection.js' {
  export default class OnsetDetection {
    static calculateSF(
      samples: number[],
      fft: unknown,
      parameters: { readonly bufferSize: number; readonly hopSize: number },
    ): number[];
    /** In place: mean 0, deviation 1. */
    static normalize(flux: number[]): void;
    /** Numbers of windows. */
    static findPeaks(flux: number[], parameters: object): number[];
  }
}
