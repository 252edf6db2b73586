// The suites of a process share its modules: what is loaded once stays, and is compiled once. The modules of the page
// are loaded anew for every suite, since they keep what is open in it: a suite is a page of its own.
const ALIASES = new Map([
  ['@jest/globals', new URL('./globals.mjs', import.meta.url).href],
  ['gifenc', new URL('./gifenc.mjs', import.meta.url).href],
]);
const PAGE = new URL('../../web/src/', import.meta.url).href;
const SUITE = /\.test\.tsx?$/;
const OF_SUITE = /\?suite=(.*)$/;

export async function resolve(specifier, context, next) {
  const alias = ALIASES.get(specifier);
  if (alias) return { url: alias, shortCircuit: true };
  const found = await next(specifier, context);
  if (!found.url.startsWith(PAGE)) return found;
  // The runner asks for a suite by its file and the time.
  const [file] = found.url.split('?');
  const suite = SUITE.test(file) ? file.slice(PAGE.length) : OF_SUITE.exec(context.parentURL)?.[1];
  return suite ? { ...found, url: `${file}?suite=${suite}` } : found;
}

// What is loaded anew has been compiled before.
const loaded = new Map();

export async function load(url, context, next) {
  if (!url.startsWith(PAGE)) return next(url, context);
  const file = url.replace(/\?.*$/, '');
  if (!loaded.has(file)) loaded.set(file, await next(file, context));
  return loaded.get(file);
}
