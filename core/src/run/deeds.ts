import { waitsFor } from '../vocabulary/cues/all.ts';
import type { Point } from '../program/geometry.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import { alone, clickOn, isPressAnswered, onLayer } from './by-name.ts';
import { dragLayer, fireOutward, isAt, longPress, movePointer, pressBeside, pressPointer, releasePointer, swipe, SWIPE_TIME } from './pointer.ts';
import { HEARD, type Occasions } from './heard.ts';
import { groundOf, offPressed } from './reach.ts';
import type { Runner } from './runner.ts';
import type { RunEvent } from './state.ts';

/** What is done by name, to layers and to the ground, most of which no page does: somebody who tries everything, a walk that is kept, the command line. */

export type Deed = Extract<
  RunEvent,
  { readonly type: 'click' | 'hold' | 'let-go' | 'double-click' | 'long-press' | 'beside' | 'hover' | 'drag' | 'swipe' }
>;

export function takeDeed(runner: Runner, event: Deed): void {
  switch (event.type) {
    case 'click':
      alone(runner);
      return onPlace(runner, event, HEARD.click, (node, point, scene) => clickOn(runner, node, scene, point));
    case 'hold':
      alone(runner);
      return onPlace(runner, event, HEARD.hold, (_node, point) => pressPointer(runner, point));
    case 'let-go':
      return letGo(runner, event.where);
    case 'double-click':
      alone(runner);
      return onPlace(runner, event, HEARD['double-click'], (node, point, scene) => {
        clickOn(runner, node, scene, point);
        runner.next();
        // What the first click hid, moved away or covered is not there for the second.
        if (runner.run.clicked && isAt(runner, node, scene, point)) clickOn(runner, node, scene, point);
      });
    case 'long-press':
      return onPlace(runner, event, HEARD['long-press'], (node, point, scene) => longPressOn(runner, node, scene, point));
    case 'beside':
      return pressBeside(runner);
    case 'hover':
      comeAnew(runner, event.layer);
      return onLayer(runner, event.layer, HEARD.hover, (_node, point) => movePointer(runner, point));
    case 'drag':
      return onLayer(runner, event.layer, HEARD.drag, (node, point) => dragLayer(runner, node, point, event.dx, event.dy));
    case 'swipe':
      return onPlace(runner, event, HEARD.swipe, (node, point, scene) => swipeOn(runner, node, scene, point, event.direction));
  }
}

/** On a layer, or where the scene itself takes it. */
function onPlace(
  runner: Runner,
  { layer, scene = runner.run.frame }: { readonly layer: string | null; readonly scene?: string },
  occasions: Occasions,
  act: (node: Node | null, point: Point, scene: string) => void
): void {
  if (layer !== null) return onLayer(runner, layer, occasions, (node, point) => act(node, point, runner.sceneOfNode(node.key)!));
  const ground = groundOf(runner, scene, occasions);
  if (ground) return act(ground.node, ground.point, scene);
  const name = runner.program.scenes.get(scene)?.scene.name ?? 'This frame';
  runner.why({ code: 'covered', sentence: `Layers take all of ${name}.` });
}

/** Who comes onto a layer comes from elsewhere, as far as nobody waits for that, or from what is around it. */
function comeAnew(runner: Runner, layer: string): void {
  const around = outwardNodes(runner.find(layer)?.node?.parent ?? null).map(({ key }) => key);
  const over = runner.run.over.filter((key) => !around.includes(key));
  const waits = (key: string) => runner.find(key)?.node?.item.threads.some(({ enabled, cue }) => enabled && waitsFor(cue, 'leave'));
  if (over.length && !over.some(waits)) runner.put({ over: runner.run.over.filter((key) => around.includes(key)), pointer: null });
}

/** Presses until that is a long press, and lets go. */
function longPressOn(runner: Runner, node: Node | null, scene: string, point: Point): void {
  if (!isPressAnswered(runner, node, scene)) return longPress(runner, node, scene);
  pressPointer(runner, point);
  runner.next();
  if (!runner.run.pressed) return;
  longPress(runner, node, scene);
  runner.next();
  releasePointer(runner, point);
}

/** Presses, moves on and lets go so fast that it is a swipe. */
function swipeOn(runner: Runner, node: Node | null, scene: string, point: Point, direction: 'left' | 'right' | 'up' | 'down'): void {
  if (isPressAnswered(runner, node, scene)) {
    pressPointer(runner, point);
    runner.next();
    if (!runner.run.pressed) return;
    runner.put({ pressed: null });
    fireOutward(runner, node, scene, { type: 'release' });
    if (!runner.liveRoots().includes(scene)) return;
  }
  swipe(runner, node, scene, direction);
}

/** Lets go of what is held. */
function letGo(runner: Runner, where: 'there' | 'elsewhere'): void {
  const { pressed, clock } = runner.run;
  if (!pressed) return runner.why({ code: 'not-held', sentence: 'Nothing is pressed that could be let go.' });
  if (where === 'there') return releasePointer(runner, pressed.from);
  const point = offPressed(runner);
  if (!point) return runner.why({ code: 'covered', sentence: 'What is pressed takes all of the view, so it cannot be let go elsewhere.' });
  // As slowly as that it is no swipe.
  runner.put({ pressed: { ...pressed, at: Math.min(pressed.at, clock - SWIPE_TIME - 1) } });
  movePointer(runner, point);
  releasePointer(runner, point);
}
