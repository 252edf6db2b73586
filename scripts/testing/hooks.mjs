// What Node needs to run the tests as they are written: TypeScript by swc, and the resolver beside this file. Given to
// Node with --import, so that the threads that Jest starts have it too.
import '@swc-node/register/esm-register';
import { register } from 'node:module';

register('./resolver.mjs', import.meta.url);
