/** What a player needs, and nothing that reads, edits or audits documents. */
export * from './motion/easing.ts';
export * from './motion/presenter.ts';
export { DEFAULT_INK, valuesOf, type Values } from './motion/values.ts';
export type { Layer, Piece, PieceJson, Scene, Thread } from './piece/piece.ts';
export { pieceFromTrusted } from './piece/trusted.ts';
export type { Letters, Look, LookName, Style } from './piece/schema.ts';
export * from './program/geometry.ts';
export * from './program/hit.ts';
export { compileWith, startFrame, update, type Item, type ParseExpression, type Program, type SceneProgram } from './program/program.ts';
export * from './program/resolve.ts';
export { stillLayer, stillScreen, type Still } from './program/still.ts';
export type { Node } from './program/expand.ts';
export { advance, begin, isPlaying, nextDeadline, replay, start } from './run/run.ts';
export { valueOfField, valueOfVariable } from './run/environment.ts';
export { framesPerSecond } from './run/playhead.ts';
export type { Ast, Value } from './expression/ast.ts';
export type * from './run/state.ts';
export type { Transition } from './steps/schemas.ts';
