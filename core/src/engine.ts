/** What a player needs, and nothing that reads, edits or audits documents. */
export * from './motion/easing.ts';
export * from './motion/frames.ts';
export type { Layer, Piece, PieceJson, Scene, Thread } from './piece/piece.ts';
export { pieceFromTrusted } from './piece/trusted.ts';
export type { Letters, Look, LookName, Style } from './piece/schema.ts';
export * from './program/geometry.ts';
export * from './program/hit.ts';
export { compile, startFrame, update, type Item, type Program, type SceneProgram } from './program/program.ts';
export { advance, nextTimer, replay, start } from './run/run.ts';
export type * from './run/state.ts';
export type { Transition } from './steps/schemas.ts';
