export * from './cues/kinds.ts';
export type { Cue, CueType } from './cues/schemas.ts';
export { apply, type Applied, type Touched } from './edit/apply.ts';
export * from './edit/commands/clip.ts';
export * from './edit/commands/frames.ts';
export * from './edit/commands/inside.ts';
export * from './edit/commands/layers.ts';
export * from './edit/commands/threads.ts';
export * from './edit/operation.ts';
export * from './edit/order.ts';
export { rebase, type Rebased } from './edit/rebase.ts';
export * from './formats/exports.ts';
export * from './formats/html.ts';
export * from './formats/package.ts';
export * from './formats/sarif.ts';
export { completions, type Completion } from './lines/complete.ts';
export { cuesFor, parseLine, parseLines, printLine, type LineThread } from './lines/line.ts';
export { LineError } from './lines/reader.ts';
export { findFrame, scopeOf, writeFrame, type LineScope } from './lines/scope.ts';
export { sentence, stepWords, targetWords } from './lines/sentence.ts';
export * from './motion/easing.ts';
export * from './motion/frames.ts';
export {
  byOrder,
  childIdsOf,
  emptyPiece,
  framesOf,
  layerIdsOf,
  layersUnder,
  sceneOfThread,
  TABLES,
  threadIdsOf,
  threadsOf,
  withDescendants,
  type Entity,
  type Piece,
  type TableName,
  type Thread,
} from './piece/piece.ts';
export { pieceToJson, readPiece, schemaFault } from './piece/read.ts';
export * from './piece/schema.ts';
export { pieceFromTrusted } from './piece/trusted.ts';
export * from './program/geometry.ts';
export * from './program/hit.ts';
export { compile, startFrame, startFrames, update, type Item, type Program, type SceneProgram } from './program/program.ts';
export * from './result.ts';
export { advance, nextTimer, replay, sameKey, start } from './run/run.ts';
export type * from './run/state.ts';
export * from './steps/address.ts';
export * from './steps/kinds.ts';
export {
  PLACES,
  type GoToStep,
  type OpenStep,
  type Place as PlaceWord,
  type Step,
  type StepType,
  type Target,
  type Transition,
} from './steps/schemas.ts';
export { Table } from './table.ts';
export { DIRECTIONS, type Direction } from './transitions/directions.ts';
export { transitionKinds, transitionWords } from './transitions/kinds.ts';
export { audit, routeEnd, type Audit } from './walk/audit.ts';
export { explore, routeTo, startOf, type Exploration, type ExploreOptions } from './walk/explore.ts';
export { severityWords, type Finding, type Place, type Rule, type Severity } from './walk/finding.ts';
export { findTraps, type Trap } from './walk/traps.ts';
export { rules } from './walk/rules/index.ts';
export * from './words.ts';
