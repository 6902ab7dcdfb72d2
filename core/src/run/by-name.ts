import type { Point } from '../program/geometry.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { click, fireOutward, pressPointer, releasePointer, takers } from './pointer.ts';
import type { Occasions } from './heard.ts';
import { reachOf, scrollInto } from './reach.ts';
import { enabledWithin } from './resolve.ts';
import type { Runner } from './runner.ts';
import { whyDisabled } from './why.ts';

/** What is done to layers by name, where a person could do it. */

/** Where a person could get at a layer: a point of it that nothing hides, scrolled to if need be. Why not, where there is none. */
export function onLayer(runner: Runner, key: string, heard: Occasions, act: (node: Node, point: Point) => void): void {
  const place = runner.find(key);
  if (!place?.node || !place.isOn) {
    const name = runner.program.piece.layers.get(key.split('/').at(-1)!)?.name;
    runner.at(key);
    return runner.why({ code: 'not-here', sentence: name ? `${name} is not in this frame.` : 'There is no such layer.', layer: key });
  }
  const { node } = place;
  const reach = reachOf(runner, node, heard);
  if ('point' in reach) return act(reach.node, reach.point);
  const there = reach.code === 'covered' && scrollInto(runner, node) ? (runner.catchUp(), reachOf(runner, node, heard)) : reach;
  if ('point' in there) return act(there.node, there.point);
  runner.at(node.key);
  runner.why({ code: there.code, sentence: there.sentence, layer: node.key });
}

/** A click by itself is never the second of a double click. */
export function alone(runner: Runner): void {
  if (runner.run.clicked) runner.put({ clicked: null });
}

/** Presses and lets go where a point is, as far as anybody waits for that, and clicks. */
export function clickOn(runner: Runner, node: Node | null, scene: string, point: Point): void {
  const { field } = node?.layer ?? {};
  if (node && (field?.kind === 'checkbox' || field?.kind === 'switch')) return switchBox(runner, node, field.value === true);
  const taker = outwardNodes(node).find((one) => one.catches) ?? null;
  if (!isPressAnswered(runner, taker, scene)) return click(runner, taker, scene, point);
  pressPointer(runner, point);
  runner.next();
  releasePointer(runner, point);
}

/** Whether anybody waits for a press, or for its end, by itself. */
export const isPressAnswered = (runner: Runner, taker: Node | null, scene: string): boolean =>
  takers(runner, taker, scene, { type: 'press' }).length > 0 || takers(runner, taker, scene, { type: 'release' }).length > 0;

function switchBox(runner: Runner, node: Node, first: boolean): void {
  const place = { ...runner.find(node.key)!, node };
  runner.at(node.key);
  if (!enabledWithin(place.root, node)) return runner.why(whyDisabled(runner, node));
  runner.makeSelected(place, !(place.root.flags[`${node.key}.selected`] ?? node.layer.selected ?? first));
  fireOutward(runner, node, null, { type: 'click' });
}
