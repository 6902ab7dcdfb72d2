import type { Piece, Thread } from '../../piece/piece.ts';
import { byOrder, sceneOfThread } from '../../piece/piece.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { comingUp } from '../coming-up.ts';
import { around, doneBy, doneIn, inWords } from '../done.ts';
import { finding, type Rule } from '../finding.ts';
import { scenesSeen } from '../pressed.ts';
import { isTypedClick } from '../ways.ts';

export const noKeyboard: Rule = {
  id: 'no-keyboard',
  words: 'no keyboard',
  meaning:
    'something that is done by pressing, swiping or dragging and that nothing for the keyboard does: it cannot be reached or operated without a pointer',
  spares: 'what a button or a key does as well',
  check: ({ program, exploration }) => {
    const { piece } = program;
    if (!threadsIn(piece).some((thread) => thread.enabled && isPointed(piece, thread))) return [];
    const seen = new Set(scenesSeen(program, comingUp(program, exploration)).map(({ scene }) => scene.id));
    const threads = threadsIn(piece)
      .filter(({ enabled }) => enabled)
      .sort(byOrder);
    const typed = doneIn(program, (thread) => (isTyped(piece, thread) ? doneBy(thread) : []));
    const byItself = doneIn(program, (thread) => (BY_ITSELF.has(thread.cue.type) ? doneBy(thread) : []));
    const told = new Set<string>();
    return threads.flatMap((thread) => {
      const scene = sceneOfThread(piece, thread);
      if (!isPointed(piece, thread) || (scene !== null && !seen.has(scene)) || told.has(thread.owner)) return [];
      if (thread.on === 'layer' && isOperated(thread, threads)) return [];
      // Who may press anywhere hurries on what comes of itself as well.
      const ways = thread.on === 'layer' ? [typed] : [typed, byItself];
      const isTypedAlso = (words: string) => around(piece, scene).some((one) => ways.some((done) => done.get(one)?.has(words)));
      if (doneBy(thread).every((what) => isTypedAlso(inWords(program, scene, what)))) return [];
      told.add(thread.owner);
      const owner = ownerOf(piece, thread);
      const sentence = `What ${owner} does when ${words[thread.cue.type] ?? 'pointed at'} nothing does for the keyboard.`;
      return [finding('no-keyboard', 'look', placeOfThread(piece, thread), `${owner} is not for the keyboard`, sentence)];
    });
  },
};

const words: Partial<Record<Thread['cue']['type'], string>> = {
  click: 'clicked',
  press: 'pressed',
  release: 'let go',
  'double click': 'double-clicked',
  'long press': 'pressed long',
  swipe: 'swiped',
  'drag start': 'dragged',
  drag: 'dragged',
  drop: 'dropped',
};

const BY_ITSELF: ReadonlySet<Thread['cue']['type']> = new Set(['after', 'label', 'media']);

const isPointed = (piece: Piece, thread: Thread): boolean => thread.cue.type in words && !isClickTyped(piece, thread);

/** A click that the keyboard does as well. */
const isClickTyped = (piece: Piece, thread: Thread): boolean =>
  thread.cue.type === 'click' && (hasNoGround(piece, thread) || isTypedClick(piece, thread));

/** The keyboard comes to a part as to the placement that shows it; to the ground of a frame it does not, and a sheet has none. */
const hasNoGround = (piece: Piece, { on, owner }: Thread): boolean => on === 'scene' && piece.scenes.get(owner)?.use !== 'frame';

/** The keyboard gets to it: by a click of a layer, a key, a pad button, or in a field. */
const isTyped = (piece: Piece, thread: Thread): boolean => TYPED.has(thread.cue.type) || isClickTyped(piece, thread);

const TYPED: ReadonlySet<Thread['cue']['type']> = new Set(['key', 'pad', 'change']);

/** Being pressed or let go comes with the click of a layer that can be clicked. */
const isOperated = ({ owner, cue }: Thread, threads: readonly Thread[]): boolean =>
  (cue.type === 'press' || cue.type === 'release') && threads.some((one) => one.owner === owner && one.cue.type === 'click');
