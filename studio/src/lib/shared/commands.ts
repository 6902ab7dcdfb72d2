import type { EditorSession } from '$lib/client/session.svelte';
import { alikeIn, alikeKinds, commonPart, type Alike, type LookName } from '@zany/core';
import { aLook, looks } from '$lib/build/look-poses';
import {
  addFrame,
  addLook,
  align,
  carryAcross,
  chooseOne,
  copyFrame,
  duplicate,
  goInside,
  group,
  makePartOfSelection,
  nudge,
  removeFrames,
  removeSelected,
  selectAll,
  selectBeside,
  slipAway,
  spread,
  stack,
  stayPut,
  stretch,
  takeApartSelected,
  toggleAll,
  ungroup,
} from '$lib/build/acts';
import { sideKinds, sides, type Side } from '$lib/build/sides.svelte';
import type { Tool } from '$lib/build/tools';

export type Desk = 'build' | 'map' | 'walk' | 'hand-over';

export const desks: readonly { readonly id: Desk; readonly label: string; readonly meaning: string }[] = [
  { id: 'build', label: 'Build', meaning: 'read the wiring beside the picture' },
  { id: 'map', label: 'Map', meaning: 'the whole flow' },
  { id: 'walk', label: 'Walk', meaning: 'prove it' },
  { id: 'hand-over', label: 'Hand over', meaning: 'give it away' },
];

/** What the open desk lets commands do. */
export interface DeskHands {
  readonly pickTool?: (tool: Tool) => void;
  /** A tool is ready to draw. */
  readonly isDrawing?: () => boolean;
  readonly drawInMiddle?: () => void;
  readonly zoomToSelection?: () => void;
  readonly focusFinder?: () => void;
  readonly focusBar?: () => void;
  readonly focusPicker?: () => void;
  readonly write?: () => void;
  readonly bringIn?: () => void;
  readonly compareWith?: () => void;
  readonly zoom?: (to: 'in' | 'out' | 'fit' | 'whole') => void;
  readonly toggleHits?: () => void;
  readonly fold?: (side: Side | 'all') => void;
}

export interface CommandContext {
  readonly session: EditorSession;
  readonly desk: Desk;
  readonly go: (desk: Desk) => void;
  readonly hands: DeskHands;
  readonly showKeys: () => void;
  readonly showFinder: () => void;
  /** Begins the tour, on a piece of its own. */
  readonly takeTour: () => void;
}

export interface Command {
  readonly id: string;
  readonly label: string;
  /** The same where there is little room. */
  readonly short?: string;
  readonly group: 'Piece' | 'Frames' | 'Layers' | 'Looks' | 'Parts' | 'Threads' | 'Place' | 'View' | 'Time';
  /** `Mod` is Ctrl, or Cmd on a Mac. */
  readonly keys?: readonly string[];
  readonly when?: (context: CommandContext) => boolean;
  /** What has to be so for it, as the finder says while it is not: `select a layer`. */
  readonly needs?: string;
  readonly run: (context: CommandContext) => void;
}

const building = ({ desk, session }: CommandContext) => desk === 'build' && session.canEdit && !session.trying;
/** The Build desk is open, for whoever may only look as well. */
const looking = ({ desk, session }: CommandContext) => desk === 'build' && !session.trying;
const selecting = (context: CommandContext) => building(context) && context.session.selection.length > 0;
const many = (context: CommandContext) => building(context) && context.session.selection.length > 1;

const oneGroup = (context: CommandContext) =>
  selecting(context) && context.session.selection.length === 1 && context.session.piece.layers.get(context.session.selection[0]!)?.type === 'group';

const placed = (context: CommandContext) =>
  selecting(context) && context.session.selection.every((id) => context.session.piece.layers.get(id)?.type === 'placement');

const nudges = (['Left', 'Right', 'Up', 'Down'] as const).flatMap((way): Command[] => {
  const [x, y] = { Left: [-1, 0], Right: [1, 0], Up: [0, -1], Down: [0, 1] }[way] as [number, number];
  return [1, 10].map((by) => ({
    id: `nudge-${way}-${by}`,
    label: `Move ${way.toLowerCase()} by ${by}`,
    group: 'Layers',
    keys: [`${by === 10 ? 'Shift+' : ''}Arrow${way}`],
    when: selecting,
    run: ({ session }) => nudge(session, x * by, y * by),
  }));
});

const stretches = (['Left', 'Right', 'Up', 'Down'] as const).flatMap((way): Command[] => {
  const [x, y] = { Left: [-1, 0], Right: [1, 0], Up: [0, -1], Down: [0, 1] }[way] as [number, number];
  return [1, 10].map((by) => ({
    id: `stretch-${way}-${by}`,
    label: `${x + y > 0 ? 'Stretch' : 'Shrink'} ${x ? 'across' : 'down'} by ${by}`,
    group: 'Layers',
    keys: [`Alt+${by === 10 ? 'Shift+' : ''}Arrow${way}`],
    when: selecting,
    run: ({ session }) => stretch(session, x * by, y * by),
  }));
});

const frameBeside = (session: EditorSession, by: number) => {
  const at = session.sceneId === null ? -1 : (session.program.frameAt.get(session.sceneId) ?? -1);
  const next = session.program.frames[at + by];
  if (next) session.openScene(next);
};

const GUARDS = new Map<Command['when'], string>([
  [selecting, 'select a layer first'],
  [many, 'select two layers or more first'],
  [placed, 'select a placed part first'],
]);

/** What has to be so for a command that cannot be done just now, where the desk has it at all; null where it has not. */
export function needsOf(command: Command, context: CommandContext): string | null {
  if (!building(context)) return null;
  return command.needs ?? GUARDS.get(command.when) ?? null;
}

/** Every command, for keys, the command finder and the list of keys. To add one: a line here. */
export const commands: readonly Command[] = [
  { id: 'finder', label: 'Find a command', group: 'Piece', keys: ['Mod+k'], run: ({ showFinder }) => showFinder() },
  { id: 'keys', label: 'Look into the guide and the keys', group: 'Piece', keys: ['?'], run: ({ showKeys }) => showKeys() },
  {
    id: 'undo',
    label: 'Undo',
    group: 'Piece',
    keys: ['Mod+z'],
    when: ({ session }) => session.undoNames.length > 0,
    run: ({ session }) => session.undo(),
  },
  {
    id: 'redo',
    label: 'Do again',
    group: 'Piece',
    keys: ['Mod+Shift+z', 'Mod+y'],
    when: ({ session }) => session.redoNames.length > 0,
    run: ({ session }) => session.redo(),
  },
  ...desks.map((desk, i): Command => ({
    id: `desk-${desk.id}`,
    label: `Go to ${desk.label}`,
    group: 'Piece',
    keys: [`${i + 1}`],
    when: (context) => context.desk !== desk.id && !context.session.trying,
    run: ({ go }) => go(desk.id),
  })),
  {
    id: 'try',
    label: 'Try it in place',
    group: 'Piece',
    keys: ['t'],
    when: ({ session, desk }) => desk === 'build' && session.program.frames.length > 0,
    run: ({ session }) => (session.trying = !session.trying),
  },

  { id: 'hit', label: 'Draw a hit area', group: 'Layers', keys: ['h'], when: building, run: ({ hands }) => hands.pickTool?.('hit') },
  { id: 'box', label: 'Draw a box', group: 'Layers', keys: ['b'], when: building, run: ({ hands }) => hands.pickTool?.('box') },
  { id: 'oval', label: 'Draw an oval', group: 'Layers', keys: ['o'], when: building, run: ({ hands }) => hands.pickTool?.('oval') },
  { id: 'text', label: 'Write a text', group: 'Layers', keys: ['x'], when: building, run: ({ hands }) => hands.pickTool?.('text') },
  {
    id: 'field',
    label: 'Draw a field: for text, or a small one to tick',
    group: 'Layers',
    keys: ['f'],
    when: building,
    run: ({ hands }) => hands.pickTool?.('field'),
  },
  { id: 'select', label: 'Select', group: 'Layers', keys: ['v'], when: building, run: ({ hands }) => hands.pickTool?.('select') },
  {
    id: 'layer-below',
    label: 'Select the next layer of the cue sheet',
    group: 'Layers',
    keys: ['.'],
    when: building,
    run: ({ session }) => selectBeside(session, 1),
  },
  {
    id: 'layer-above',
    label: 'Select the layer before it',
    group: 'Layers',
    keys: [','],
    when: building,
    run: ({ session }) => selectBeside(session, -1),
  },
  {
    id: 'replace',
    label: 'Find and replace in the whole piece',
    short: 'Find',
    group: 'Piece',
    keys: ['Mod+f'],
    when: looking,
    run: ({ session }) => (session.panel = 'find'),
  },
  { id: 'select-all', label: 'Select all layers', group: 'Layers', keys: ['Mod+a'], when: building, run: ({ session }) => selectAll(session) },
  {
    id: 'rename',
    label: 'Rename the layer',
    group: 'Layers',
    keys: ['F2'],
    needs: 'select one layer first',
    when: (context) => selecting(context) && context.session.selection.length === 1,
    run: ({ session }) => (session.renaming = session.selection[0]!),
  },
  { id: 'delete', label: 'Delete', group: 'Layers', keys: ['Delete', 'Backspace'], when: selecting, run: ({ session }) => removeSelected(session) },
  {
    id: 'duplicate',
    label: 'Duplicate, as far again as the last time',
    short: 'Duplicate',
    group: 'Layers',
    keys: ['Mod+d'],
    when: selecting,
    run: ({ session }) => duplicate(session),
  },
  ...(Object.keys(alikeKinds) as Alike[]).map((kind): Command => ({
    id: `alike-${kind}`,
    label: `Select what has ${alikeKinds[kind].label}`,
    group: 'Layers',
    needs: 'select a layer first',
    when: selecting,
    run: ({ session }) => session.select([...new Set(session.selection.flatMap((id) => alikeIn(session.piece, id, kind)))]),
  })),
  { id: 'group', label: 'Group', group: 'Layers', keys: ['Mod+g'], when: selecting, run: ({ session }) => group(session) },
  {
    id: 'ungroup',
    label: 'Take the group apart',
    group: 'Layers',
    keys: ['Mod+Shift+g'],
    needs: 'select a group first',
    when: (context) => selecting(context) && context.session.selection.some((id) => context.session.piece.layers.get(id)?.type === 'group'),
    run: ({ session }) => ungroup(session),
  },
  {
    id: 'make-part',
    label: 'Make a part of the selection',
    short: 'Make a part',
    group: 'Parts',
    keys: ['Shift+P'],
    when: selecting,
    run: ({ session }) => makePartOfSelection(session),
  },
  {
    id: 'carry',
    label: 'Carry the selection across frames',
    short: 'Carry across frames',
    group: 'Parts',
    keys: ['Shift+C'],
    when: selecting,
    run: ({ session }) => carryAcross(session),
  },
  { id: 'go-in', label: 'Go into the part', group: 'Parts', keys: ['Shift+Enter'], when: placed, run: ({ session }) => goInside(session) },
  {
    id: 'go-out',
    label: 'Back out of the part or sheet',
    group: 'Parts',
    needs: 'go into a part or sheet first',
    keys: ['Shift+Escape'],
    when: ({ desk, session }) => desk === 'build' && session.trail.length > 0,
    run: ({ session }) => session.leaveScene(),
  },
  { id: 'take-apart', label: 'Take the part apart', group: 'Parts', when: placed, run: ({ session }) => takeApartSelected(session) },
  {
    id: 'lock',
    label: 'Lock, or unlock',
    group: 'Layers',
    keys: ['Mod+l'],
    when: selecting,
    run: ({ session }) => toggleAll(session, 'locked', 'Lock', 'Unlock'),
  },
  {
    id: 'hide',
    label: 'Hide, or show',
    group: 'Layers',
    keys: ['Shift+H'],
    when: selecting,
    run: ({ session }) => toggleAll(session, 'hidden', 'Hide', 'Show'),
  },
  ...nudges,
  ...stretches,
  { id: 'front', label: 'To the front', group: 'Layers', keys: ['Mod+Shift+]'], when: selecting, run: ({ session }) => stack(session, 'front') },
  { id: 'forward', label: 'Forward', group: 'Layers', keys: ['Mod+]'], when: selecting, run: ({ session }) => stack(session, 'forward') },
  { id: 'backward', label: 'Backward', group: 'Layers', keys: ['Mod+['], when: selecting, run: ({ session }) => stack(session, 'backward') },
  { id: 'back', label: 'To the back', group: 'Layers', keys: ['Mod+Shift+['], when: selecting, run: ({ session }) => stack(session, 'back') },

  ...looks
    .filter((look) => look.name !== 'rest')
    .map((look): Command => ({
      id: `look-${look.name}`,
      label: `Add ${aLook(look.name)}, from the one that is open`,
      group: 'Looks',
      needs: 'select layers without it first',
      when: (context) =>
        selecting(context) && context.session.selection.some((id) => !context.session.piece.layers.get(id)?.looks?.[look.name as LookName]),
      run: ({ session }) => addLook(session, session.selection, look.name as LookName, session.look),
    })),
  ...(['left', 'center', 'right', 'top', 'middle', 'bottom'] as const).map((edge): Command => ({
    id: `align-${edge}`,
    label: `Line up: ${edge}`,
    group: 'Place',
    when: selecting,
    run: ({ session }) => align(session, edge),
  })),
  {
    id: 'spread-x',
    label: 'Spread evenly across',
    group: 'Place',
    needs: 'select three layers or more first',
    when: (context) => many(context) && context.session.selection.length > 2,
    run: ({ session }) => spread(session, 'x'),
  },
  {
    id: 'spread-y',
    label: 'Spread evenly down',
    group: 'Place',
    needs: 'select three layers or more first',
    when: (context) => many(context) && context.session.selection.length > 2,
    run: ({ session }) => spread(session, 'y'),
  },

  {
    id: 'write',
    label: 'Write a thread for the selection; with a tool, draw in the middle',
    short: 'Write a thread',
    group: 'Threads',
    keys: ['Enter'],
    needs: 'select a layer first',
    when: (context) => building(context) && (context.hands.isDrawing?.() === true || context.session.selection.length > 0),
    run: ({ hands }) => (hands.isDrawing?.() ? hands.drawInMiddle?.() : hands.write?.()),
  },
  {
    id: 'properties',
    label: 'Write its place, size and other properties',
    short: 'Place, size, properties',
    group: 'Layers',
    keys: ['e'],
    when: selecting,
    run: ({ hands }) => hands.focusBar?.(),
  },
  { id: 'landing', label: 'Pick a landing', group: 'Threads', keys: ['g'], when: selecting, run: ({ hands }) => hands.focusPicker?.() },
  {
    id: 'pair',
    label: 'Pair up the selection: with frames, states, pages, or what it shows',
    short: 'Pair up',
    group: 'Threads',
    keys: ['p'],
    needs: 'select two layers or more first',
    when: (context) => many(context) || oneGroup(context),
    run: ({ session }) => (session.panel = 'pair up'),
  },

  {
    id: 'repeat',
    label: 'Repeat the layer in a row, a grid, or for each frame',
    short: 'Repeat',
    group: 'Layers',
    keys: ['r'],
    needs: 'select one layer first',
    when: (context) => building(context) && context.session.selection.length === 1,
    run: ({ session }) => (session.panel = 'repeat'),
  },
  {
    id: 'twins',
    label: 'Make the selection the same in other frames',
    short: 'The same in other frames',
    group: 'Layers',
    keys: ['Shift+E'],
    needs: 'select layers of a frame first',
    when: (context) => selecting(context) && context.session.scene?.scene.use === 'frame',
    run: ({ session }) => (session.panel = 'twins'),
  },
  {
    id: 'in-place',
    label: 'Put the part in place of what is like it, in all frames',
    short: 'In place of what is like it',
    group: 'Parts',
    keys: ['Shift+I'],
    needs: 'select one placement of a part first',
    when: (context) => placed(context) && context.session.selection.length === 1,
    run: ({ session }) => (session.panel = 'in place'),
  },
  {
    id: 'rows',
    label: 'Fill placements from the rows of a table',
    short: 'Fill from rows',
    group: 'Parts',
    needs: 'select placements of one part first',
    when: (context) => {
      const { selection, piece } = context.session;
      return selecting(context) && commonPart(selection.flatMap((id) => piece.layers.get(id) ?? [])) !== null;
    },
    run: ({ session }) => (session.panel = 'rows'),
  },
  {
    id: 'slides',
    label: 'Make slides of the selection',
    short: 'Make slides',
    group: 'Parts',
    keys: ['s'],
    when: selecting,
    run: ({ session }) => (session.panel = 'slides'),
  },
  {
    id: 'time',
    label: 'Time: sections, keys and motion of what is open',
    short: 'Time',
    group: 'Time',
    keys: ['m'],
    when: building,
    run: ({ session }) => {
      session.strip = 'time';
      session.timeAsked = true;
    },
  },
  {
    id: 'starters',
    label: 'Place a starter part',
    group: 'Parts',
    keys: ['y'],
    when: (context) => building(context) && context.session.sceneId !== null,
    run: ({ session }) => (session.panel = 'starter parts'),
  },
  {
    id: 'stay-put',
    label: 'Stay put while the scene scrolls',
    group: 'Layers',
    keys: ['k'],
    when: selecting,
    run: ({ session }) => stayPut(session),
  },
  {
    id: 'slip-away',
    label: 'Slip away while scrolling down, come back while scrolling up',
    group: 'Threads',
    keys: ['Shift+K'],
    when: selecting,
    run: ({ session }) => slipAway(session),
  },
  {
    id: 'choose-one',
    label: 'Choose one of the selection',
    group: 'Threads',
    keys: ['c'],
    when: many,
    run: ({ session }) => chooseOne(session),
  },
  { id: 'new-frame', label: 'New frame', group: 'Frames', keys: ['n'], when: building, run: ({ session }) => addFrame(session) },
  {
    id: 'new-draft',
    label: 'New draft frame',
    group: 'Frames',
    keys: ['Shift+N'],
    when: building,
    run: ({ session }) => addFrame(session, { draft: true }),
  },
  {
    id: 'new-section',
    label: 'New frames by their names',
    short: 'New frames',
    group: 'Frames',
    keys: ['Shift+F'],
    when: building,
    run: ({ session }) => (session.panel = 'section'),
  },
  { id: 'copy-frame', label: 'Duplicate the frame', group: 'Frames', when: building, run: ({ session }) => copyFrame(session) },
  {
    id: 'remove-frame',
    label: 'Delete the frame',
    group: 'Frames',
    keys: ['Shift+Delete'],
    when: (context) => building(context) && context.session.sceneId !== null,
    run: ({ session }) => removeFrames(session),
  },
  { id: 'bring-in', label: 'Bring in pages', group: 'Frames', keys: ['i'], when: building, run: ({ hands }) => hands.bringIn?.() },
  {
    id: 'next-frame',
    label: 'Open the next frame',
    group: 'Frames',
    keys: ['PageDown'],
    when: ({ desk, session }) => desk === 'build' && !session.trying,
    run: ({ session }) => frameBeside(session, 1),
  },
  {
    id: 'previous-frame',
    label: 'Open the previous frame',
    group: 'Frames',
    keys: ['PageUp'],
    when: ({ desk, session }) => desk === 'build' && !session.trying,
    run: ({ session }) => frameBeside(session, -1),
  },

  {
    id: 'reference',
    label: 'Lay a picture under or over the scene, to compare',
    group: 'View',
    when: (context) => building(context) && context.session.sceneId !== null,
    run: ({ hands }) => hands.compareWith?.(),
  },
  { id: 'tour', label: 'Take the tour, on a piece of its own', group: 'View', run: ({ takeTour }) => takeTour() },
  {
    id: 'comments',
    label: 'Comments',
    group: 'View',
    keys: ['u'],
    when: ({ desk, session }) => desk === 'build' && !session.trying,
    run: ({ session }) => (session.panel = session.panel === 'comments' ? null : 'comments'),
  },
  { id: 'find', label: 'Find a layer', group: 'View', keys: ['/'], when: ({ desk }) => desk === 'build', run: ({ hands }) => hands.focusFinder?.() },
  ...sides.map((side): Command => ({
    id: `fold-${side}`,
    label: `Fold away the ${sideKinds[side].label}, or unfold it`,
    group: 'View',
    keys: [sideKinds[side].key],
    when: looking,
    run: ({ hands }) => hands.fold?.(side),
  })),
  {
    id: 'fold-all',
    label: 'Nothing but the stage, or what there was beside it',
    group: 'View',
    keys: ['Shift+w'],
    when: looking,
    run: ({ hands }) => hands.fold?.('all'),
  },
  {
    id: 'hits',
    label: 'Show what can be pressed',
    group: 'View',
    keys: ['a'],
    when: ({ desk }) => desk === 'build',
    run: ({ hands }) => hands.toggleHits?.(),
  },
  {
    id: 'zoom-in',
    label: 'Zoom in',
    group: 'View',
    keys: ['+', '='],
    when: ({ hands }) => hands.zoom !== undefined,
    run: ({ hands }) => hands.zoom?.('in'),
  },
  {
    id: 'zoom-out',
    label: 'Zoom out',
    group: 'View',
    keys: ['-'],
    when: ({ hands }) => hands.zoom !== undefined,
    run: ({ hands }) => hands.zoom?.('out'),
  },
  {
    id: 'zoom-fit',
    label: 'Zoom to fit',
    group: 'View',
    keys: ['0'],
    when: ({ hands }) => hands.zoom !== undefined,
    run: ({ hands }) => hands.zoom?.('fit'),
  },
  {
    id: 'zoom-selection',
    label: 'Zoom to the selection',
    group: 'View',
    needs: 'select a layer first',
    keys: ['9'],
    when: (context) => context.hands.zoomToSelection !== undefined && context.session.selection.length > 0 && !context.session.trying,
    run: ({ hands }) => hands.zoomToSelection?.(),
  },
  {
    id: 'zoom-whole',
    label: 'Zoom to 100 %',
    group: 'View',
    keys: ['Shift+0', ')'],
    when: ({ hands }) => hands.zoom !== undefined,
    run: ({ hands }) => hands.zoom?.('whole'),
  },
];

/** Keys that the browser's own events carry, listed with the rest. */
export const otherKeys: readonly { readonly keys: string; readonly label: string }[] = [
  {
    keys: 'Ctrl+C, Ctrl+X, Ctrl+V',
    label: 'Copy, cut, paste: layers with their threads, also into all frames chosen in the shelf, and between pieces; pictures come in as pages',
  },
  { keys: 'Alt while dragging', label: 'Duplicate by dragging' },
  { keys: 'Shift while dragging', label: 'Keep the direction, or the shape' },
  { keys: 'Ctrl while clicking', label: 'Select what is inside a group' },
  { keys: 'Space or the middle button, dragging', label: 'Move the stage' },
  { keys: 'Ctrl and the wheel', label: 'Zoom at the pointer' },
  { keys: 'Right button', label: 'What can be done with a layer, a frame or a thread' },
  { keys: 'Escape', label: 'Leave Try, a tool, a selection' },
  { keys: 'In Time: Space', label: 'Play from here as it will run, and stop' },
  { keys: 'In Time: Ctrl+A, C, X, V, D', label: 'Choose all keys; copy, cut, paste, duplicate them' },
  { keys: 'In Time: ← →', label: 'One frame back or on; with Shift ten; in a row from key to key; with Alt what is chosen moves' },
  { keys: 'In Time: ↓ ↑', label: 'From the ruler into the rows, and from row to row' },
  { keys: 'In Time: A', label: 'What can be put on the selected layers: keys, spans, motion, cues' },
  { keys: 'In Time: < >', label: 'The thing that happens before, or next: a key, a label, the end of a span' },
  { keys: 'In Time: PageUp, PageDown, Home, End', label: 'Section by section, the beginning, the end' },
  { keys: 'In Time: L', label: 'A label here' },
  { keys: 'In Time: dragging over rows', label: 'Choose the keys in a frame; with Shift besides those that are chosen' },
  { keys: 'In Time: dragging a curve of an open line', label: 'Bend the way between two keys' },
  { keys: 'In Time: K', label: 'A key of the place of what is selected' },
  {
    keys: 'In Time: on the tag of a section',
    label: 'Enter renames, Alt+← → moves it, + and − make it longer or shorter, Delete joins it to the one before',
  },
];

/** Whether an event is one of a command's keys. */
export function matches(event: KeyboardEvent, keys: string): boolean {
  const parts = keys.split('+');
  const key = keys === '+' ? '+' : parts.at(-1)!;
  const mod = parts.includes('Mod');
  const shift = parts.includes('Shift');
  if (mod !== (event.ctrlKey || event.metaKey) || parts.includes('Alt') !== event.altKey) return false;
  const isSign = [...key].length === 1 && !/[a-z0-9]/i.test(key);
  if (!isSign && shift !== event.shiftKey) return false;
  if (isSign && shift && !event.shiftKey) return false;
  const pressed = mod && shift && isSign ? ({ '{': '[', '}': ']' }[event.key] ?? event.key) : event.key;
  return pressed.toLowerCase() === key.toLowerCase();
}

/** Keys as they are written for people. */
export const keyLabel = (keys: string): string =>
  keys
    .replace('Mod', typeof navigator !== 'undefined' && /Mac/.test(navigator.platform) ? '⌘' : 'Ctrl')
    .replace(/Arrow(\w+)/, (_, way: string) => ({ Left: '←', Right: '→', Up: '↑', Down: '↓' })[way] ?? way)
    .replace(/(^|\+)([a-z])$/, (_, plus: string, letter: string) => plus + letter.toUpperCase());

/** Commands in the menu of the selected layers, in groups; those that do not fit the selection are left out. */
export const layerMenu: readonly (readonly string[])[] = [
  ['write', 'landing', 'pair', 'choose-one'],
  ['rename', 'properties', 'twins', 'duplicate', 'repeat', 'slides'],
  ['group', 'ungroup', 'make-part', 'in-place', 'go-in', 'take-apart', 'carry'],
  ['front', 'forward', 'backward', 'back'],
  ['lock', 'hide', 'delete'],
];
