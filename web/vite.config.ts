import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

/** The one file of the font that every page shows; the others come only with the letters that they hold. */
const FIRST_FONT = /source-sans-3-latin-wght-normal.*\.woff2$/;

/** Has the page fetch its font along with its script, not after its styles. */
const preloadFont: Plugin = {
  name: 'preload-font',
  transformIndexHtml: {
    order: 'post',
    handler: (_, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((file) => FIRST_FONT.test(file))
        .map((file) => ({
          tag: 'link',
          attrs: { rel: 'preload', as: 'font', type: 'font/woff2', href: `/${file}`, crossorigin: '' },
          injectTo: 'head',
        })),
  },
};

/** What makes the application one that can be installed, and that opens without its server. */
const installable = VitePWA({
  registerType: 'prompt',
  injectRegister: false,
  includeAssets: ['icon.svg'],
  manifest: {
    name: 'Warper',
    short_name: 'Warper',
    description:
      'Arranges motion clips per character on a timeline, joins them and bakes one continuous performance.',
    start_url: '/',
    display: 'standalone',
    background_color: '#f4f1ea',
    theme_color: '#f4f1ea',
    icons: [
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
    ],
  },
  workbox: {
    globPatterns: ['**/*.{js,css,html}', '**/*-latin-wght-*.woff2'],
    maximumFileSizeToCacheInBytes: 5_000_000,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//, /^\/demonstration/],
    cleanupOutdatedCaches: true,
  },
});

export default defineConfig({
  plugins: [react(), tailwindcss(), preloadFont, installable],
  worker: { format: 'es' },
  build: { outDir: 'dist', manifest: true, sourcemap: true, chunkSizeWarningLimit: 3000 },
  server: { proxy: { '/demonstration': 'http://localhost:4173', '/api': 'http://localhost:4173' } },
});
