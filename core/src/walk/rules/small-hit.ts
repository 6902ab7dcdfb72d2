import { perScene } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import type { Item } from '../../program/program.ts';
import type { Operation } from '../../edit/operation.ts';

/** WCAG 2.2: 2.5.8 (minimum) asks for 24 CSS pixels, 2.5.5 (enhanced) for 44. */
export const LEAST = 24;
export const ENOUGH = 44;

export const smallHit: Rule = {
  id: 'small-hit',
  meaning: 'something to press that is under 24 CSS px (must fix, WCAG 2.2, 2.5.8) or under 44 (worth a look, 2.5.5) in width or height',
  check: ({ program }) =>
    perScene(program, 'small-hit', ({ scene, items }) =>
      items.filter(isPressed).flatMap((item) => (isSmall(item) ? [report(scene.id, scene, item)] : []))
    ),
};

const isPressed = (item: Item) => item.shown && item.threads.some((thread) => thread.enabled && thread.cue.type === 'click');

const isSmall = ({ box }: Item) => Math.min(box.width, box.height) < ENOUGH;

function report(id: string, frame: { name: string; width: number; height: number }, item: Item): Finding {
  const { box, layer } = item;
  const must = Math.min(box.width, box.height) < LEAST;
  const size = `${round(box.width)} × ${round(box.height)}`;
  const sentence = `${size} on ${frame.name}; ${must ? 'at least 24 is needed, and ' : ''}a thumb wants 44.`;
  const fix = layer.type === 'hit' && !item.parent ? { label: 'Grow to 44', operations: grown(frame, item) } : undefined;
  return finding('small-hit', must ? 'must' : 'look', { scene: id, layer: layer.id }, `${layer.name} is hard to hit`, sentence, fix && { fix });
}

/** The area about the same middle, moved inside the frame where it would stick out. */
function grown(frame: { width: number; height: number }, { box, layer }: Item): Operation[] {
  const width = Math.max(ENOUGH, box.width);
  const height = Math.max(ENOUGH, box.height);
  const x = keepIn(box.x - (width - box.width) / 2, frame.width - width);
  const y = keepIn(box.y - (height - box.height) / 2, frame.height - height);
  return [{ op: 'set', table: 'layers', id: layer.id, path: ['pose'], value: { x, y, width, height } }];
}

const keepIn = (value: number, most: number) => Math.max(0, Math.min(value, Math.max(0, most)));

const round = (n: number) => Math.round(n * 10) / 10;
