export * from './arbitrary.ts';
export * from './build.ts';
export * from './large.ts';
