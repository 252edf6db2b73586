export * from './demonstration';
export * from './takes';
export * from './build';
export * from './turns';
export * from './dog';
export { dogSkeleton } from './dogPose';
export * from './visitor';
