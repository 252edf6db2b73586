export * from './app';
export * from './library/catalogue';
export * from './library/clipFolder';
export * from './library/routes';
export * from './library/work';
