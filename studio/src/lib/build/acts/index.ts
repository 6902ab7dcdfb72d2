/** What a designer does to an open piece, each as one named edit. Keys, buttons and the command finder all come here. */

export { CLIP_TYPE, duplicate, noteStep, clipOf, linesOf, paste, pasteThreads } from './copy';
export {
  addFrame,
  copyFrame,
  removeFrames,
  setFrame,
  kindsFor,
  startHere,
  toggleEnding,
  setKind,
  setBundle,
  bundleNamed,
  putFrames,
  renameBundle,
  takeApart,
} from './frames';
export { addAllLooks, addLook, freshLook, lookOperations, looksLeft, removeLook } from './looks';
export { bringInHere, replaceFile, drawHere } from './files';
export { addressHere, drawLayer, isPainted, isShape, setLayer, restyleSelected, outlineOnly, writtenText, writeText } from './draw';
export {
  FRAME_TYPE,
  leadFromHere,
  leadTo,
  bind,
  bindState,
  choiceOperations,
  selectedLooks,
  chooseOne,
  leaveChoice,
  bringInto,
  playFrom,
  addressIn,
  openOnClick,
} from './wire';
export { makePartOfSelection, carryAcross, takeApartSelected, placeHere, goInside, placeEverywhere } from './parts';
export {
  removeSelected,
  nudge,
  align,
  spread,
  stack,
  group,
  ungroup,
  toggleAll,
  sameSize,
  stayPut,
  slipAway,
  moveIntoView,
  stretch,
} from './arrange';
export { boxed, selectAll, sheetOrder, selectBeside } from './select';
