export * from './demonstration';
export * from './takes';
export * from './build';
export * from './turns';
export * from './dog';
export * from './visitor';
