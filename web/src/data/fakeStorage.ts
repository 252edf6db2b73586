// Gives tests in Node the storage that browsers have. A suite that imports it has one of its own, with nothing in it.
import Dexie from 'dexie';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';

const indexedDB = new IDBFactory();
Object.assign(globalThis, { indexedDB, IDBKeyRange });
Object.assign(Dexie.dependencies, { indexedDB, IDBKeyRange });
