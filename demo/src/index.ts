export * from './demonstration';
export * from './takes';
export * from './build';
