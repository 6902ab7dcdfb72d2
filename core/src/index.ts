export { sumIn } from './expression/sum.ts';
export { typeOf, valueWords, type ExpressionFault, type Value, type ValueType } from './expression/ast.ts';
export { checkTypes, typeOfExpression } from './expression/check.ts';
export { functions } from './expression/functions.ts';
export { clausesOf, COMPARISONS, writeClauses, type Clause, type Clauses } from './expression/clauses.ts';
export { displayExpression, writeThing, type ExpressionScope } from './expression/names.ts';
export { parseExpression } from './expression/parse.ts';
export { expressionScope, typeOfField, typesIn, variableType } from './expression/scope.ts';
export { storeExpression } from './expression/store.ts';
export { escapeText, hasExpressions, textParts } from './expression/text.ts';
export { displayText, storeText, type StoredText } from './expression/written-text.ts';
export { apply, type Applied } from './edit/apply.ts';
export type { Touched } from './edit/touched.ts';
export * from './edit/commands/clip.ts';
export * from './edit/commands/excerpt.ts';
export * from './edit/commands/frames.ts';
export * from './edit/commands/inside.ts';
export * from './edit/commands/choices.ts';
export * from './edit/commands/layers.ts';
export * from './edit/commands/pages.ts';
export * from './edit/commands/pairs.ts';
export * from './edit/time/cues.ts';
export * from './edit/time/curve.ts';
export * from './edit/time/keys.ts';
export * from './edit/time/moments.ts';
export { afterSection, clipFrames, mediaFrames, playedOn } from './run/played.ts';
export * from './edit/time/motion-path.ts';
export { mainOutline, outlinesOf } from './motion/path.ts';
export * from './edit/time/presets.ts';
export * from './edit/time/outlines.ts';
export * from './edit/time/pull.ts';
export * from './edit/time/sections.ts';
export * from './edit/time/spans.ts';
export * from './edit/time/trim.ts';
export {
  framesPerSecondOperations,
  freshTimeline,
  MOST_FRAMES,
  sectionOf,
  setLength,
  timelineOperations,
  trackValue,
  type Keyframe,
  type Section,
} from './edit/time/timeline.ts';
export { Beside } from './once.ts';
export { filmOfWalk, type FilmMoment } from './motion/film.ts';
export * from './formats/shots.ts';
export { EXAMPLE_SIZE, exampleOfCue, exampleOfStep, exampleOfTransition, type MovingExample } from './help/examples.ts';
export { keysById, keysOf, type KeyOf, type Keys } from './motion/track.ts';
export * from './edit/reach/in-time.ts';
export * from './edit/commands/repeat.ts';
export * from './edit/commands/slides-of-one.ts';
export * from './edit/commands/replace.ts';
export * from './edit/commands/rows.ts';
export * from './edit/commands/parts.ts';
export * from './edit/commands/select-alike.ts';
export * from './edit/commands/likenesses.ts';
export * from './edit/commands/twins.ts';
export * from './edit/commands/lead-there.ts';
export * from './edit/commands/slides.ts';
export * from './edit/commands/states.ts';
export * from './edit/commands/easings.ts';
export * from './edit/commands/swatches.ts';
export * from './edit/commands/threads.ts';
export * from './edit/commands/variables.ts';
export * from './edit/operation.ts';
export { posed, withDelta, type Posing } from './edit/reach/pose.ts';
export { unveiled } from './edit/reach/unveil.ts';
export { withReach, type Reach, type Variants } from './edit/reach/reach.ts';
export * from './edit/order.ts';
export { rebase, type Rebased } from './edit/rebase.ts';
export * from './formats/exports/all.ts';
export { cameInWords, importFor, imports, type CameIn, type ImportForm } from './formats/imports/all.ts';
export { escaped } from './formats/escaped.ts';
export * from './formats/html.ts';
export { leadsFrom, type Lead } from './formats/leads-from.ts';
export * from './formats/package.ts';
export * from './formats/sarif.ts';
export * from './formats/scxml.ts';
export { toWalkThrough, type PrintedFrame } from './formats/walk-through.ts';
export { placeKey, sameElsewhere } from './lines/alike.ts';
export { beginsBinding, bindingWords, parseBinding, printBinding, SCENE_BINDABLE, type LineBinding } from './lines/binding.ts';
export { completions, expressionCompletions, type Completion } from './lines/complete.ts';
export { cuesFor, formOfCue, formOfStep, parseLine, parseLines, printCue, printLine, printStep, type LineThread } from './lines/line.ts';
export { LineError } from './lines/reader.ts';
export { findNamed, scopeFor, scopeOf, writeNamed, type LineScope, type Named } from './lines/scope.ts';
export { piecesOf, withField } from './lines/form.ts';
export { fieldAt, type Form, type Slot } from './fields/forms.ts';
export type { SlotKind } from './fields/forms.ts';
export { cueWords, sentence, stepWords, targetWords } from './lines/sentence.ts';
export * from './motion/easing.ts';
export * from './motion/color.ts';
export * from './motion/frames.ts';
export * from './motion/presenter.ts';
export { strokeLength } from './motion/path-length.ts';
export { countedText, typedPart } from './motion/shares.ts';
export { DEFAULT_INK, settledValues, valueIn, valuesOf, type Values } from './motion/values.ts';
export {
  byOrder,
  childIdsOf,
  emptyPiece,
  framesOf,
  layerIdsOf,
  layersUnder,
  sceneOfThread,
  scenesOf,
  statesOf,
  variablesOf,
  type Branch,
  TABLES,
  threadIdsOf,
  threadsOf,
  withDescendants,
  type Entity,
  type Piece,
  type TableName,
  type Thread,
} from './piece/piece.ts';
export { migrated, migratedEdit, takesEditsOf } from './piece/migrate.ts';
export { pieceToJson, readPiece, schemaFault } from './piece/read.ts';
export { DOCUMENT_LIMITS, EDIT_LIMITS, jsonTextFault, shapeFault, type ShapeLimits } from './piece/shape.ts';
export { cutText, isWellFormed, mended, mendedText, MOST_NAME, MOST_NOTE } from './text.ts';
export * from './piece/faces.ts';
export * from './piece/paint.ts';
export { coloursOf, recolour, typesOf, type TypeInUse } from './piece/painted.ts';
export * from './piece/schema.ts';
export { pieceFromTrusted } from './piece/trusted.ts';
export * from './program/geometry.ts';
export * from './program/items.ts';
export { compile } from './program/compile.ts';
export { expand, type Expansion } from './program/expand.ts';
export { threadsAt, type Instance, type Node } from './program/node.ts';
export { compileWith, startFrame, startFrames, update, type Item, type Program, type SceneProgram } from './program/program.ts';
export * from './run/resolve.ts';
export { rehearse, type Rehearsal } from './run/rehearse.ts';
export { lookedAtWith, stateAtFirst, stillLayer, stillRun, stillScreen, variablesSeen, type Still } from './run/still.ts';
export * from './result.ts';
export { advance, begin, isPlaying, nextDeadline, replay, start } from './run/run.ts';
export { nameOfState, valueOfVariable } from './run/environment.ts';
export { currentFrame, framesPerSecond, isThereAt, sectionAt, sectionsOf } from './run/playhead.ts';
export type { Ending, LabelOf, SpanOf, Timeline, TrackOf, Tracked } from './edit/time/types.ts';
export type * from './run/state.ts';
export * from './vocabulary/address.ts';
export {
  labelOf,
  stepKind,
  stepKinds,
  targetOf,
  type GoToStep,
  type OpenStep,
  type Step,
  type StepOf,
  type StepType,
} from './vocabulary/steps/all.ts';
export { cueKind, cueKinds, fitsOccasion, waitsFor, type Cue, type CueOf, type CueType } from './vocabulary/cues/all.ts';
export type { OwnerKind } from './vocabulary/cues/define.ts';
export { KEY_NAMES, keyWords, sameKey } from './vocabulary/keys.ts';
export { isMediaLayer, isOutlined, layerKind, layerKinds } from './vocabulary/layers/all.ts';
export { properties, propertyKinds } from './vocabulary/properties/all.ts';
export { PLACES, type Place as PlaceWord } from './vocabulary/places.ts';
export type { Target } from './vocabulary/target.ts';
export type { Timing } from './fields/step-fields.ts';
export { groupedBy } from './grouped.ts';
export { Table } from './table.ts';
export { DIRECTIONS, type Direction } from './vocabulary/directions.ts';
export { transitionKinds, type Transition } from './vocabulary/transitions/all.ts';
export { transitionWords } from './lines/transition.ts';
export { changesBetween } from './run/changes.ts';
export { audit, judge, routeEnd, type Audit } from './walk/audit.ts';
export type { Exploration, ExploreOptions, Exploring } from './walk/exploration.ts';
export { explore, exploring, routeTo, startOf } from './walk/explore.ts';
export { isComplete } from './walk/live.ts';
export { framesShowing } from './walk/per-scene.ts';
export { severityWords, type Finding, type Rule, type Severity } from './walk/finding.ts';
export type { Place } from './walk/place.ts';
export { findTraps, type Trap } from './walk/traps.ts';
export { rules } from './walk/rules/index.ts';
export { asideKey, markOf, reasonFor } from './walk/aside.ts';
export { eventWords, routeWords } from './walk/event-words.ts';
export { VERSION } from './version.ts';
export { auditOf, programOf, telling, type Met } from './formats/audited.ts';
export { reportKinds, toJunit, walkedAll, type ReportKind } from './formats/report.ts';
export { tellApart, USUAL_PAIRS, type Apart } from './walk/apart.ts';
export { comparison, type Comparison } from './versions/comparison.ts';
export { differenceLines, differencesBetween, type Differences } from './versions/between.ts';
export { scenesBetween, type LayerChange, type LookChange, type SceneChange } from './versions/scenes-between.ts';
export { threadsBetween, type ThreadChange, type ThreadChangeKind } from './versions/threads-between.ts';
export { takeScene, takeThread, type TakenOver } from './versions/take-over.ts';
export { operationsToward } from './versions/toward.ts';
export { fieldWords, plainValueWords } from './versions/value-words.ts';
export { compareVersions, type Change, type ChangeKind, type Version } from './walk/compare.ts';
export { branchKey } from './run/runner.ts';
export { guide, planRoutes, type Plan, type PlannedRoute } from './walk/plan.ts';
export { stepsOf, walkKept, type Walked } from './walk/kept.ts';
export { followTrail, isReached, readTrail, TrailKeeper, type Goal, type Trail } from './walk/trail.ts';
export type { Aside, Asked, KeptEvent, KeptStep, KeptWalk } from './piece/walks.ts';
export { MOST_STEPS_KEPT } from './piece/walks.ts';
export * from './edit/commands/walks.ts';
export * from './words.ts';
export { insertStarter } from './starters/insert.ts';
export type { Starter } from './starters/starter.ts';
export { starters } from './starters/table.ts';
export { lostInStep } from './walk/rules/missing-target.ts';
