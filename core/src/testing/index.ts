export * from './arbitrary.ts';
export * from './build.ts';
export * from '../compose/compose.ts';
export * from './hostile.ts';
export * from './large.ts';
export * from './naive.ts';
export * from './rich.ts';
export * from './steps.ts';
