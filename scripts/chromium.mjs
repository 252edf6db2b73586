/** Where Debian's Chromium is, unless another one is named. */
export const CHROMIUM = process.env.CHROMIUM ?? '/usr/bin/chromium';

/** Chromium without a graphics card draws WebGL in software, pages without it, and asks nobody outside for anything. */
export const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--use-gl=angle',
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-gpu-rasterization',
];
