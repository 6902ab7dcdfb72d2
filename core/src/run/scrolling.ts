import { waitsFor } from '../vocabulary/cues/all.ts';
import { boundsOf, childrenBox, standingRoot } from './resolve.ts';
import { overlaps } from '../program/geometry.ts';
import type { Runner } from './runner.ts';
import type { Scroll } from './state.ts';

/** Scrolling of scenes that are higher than their view, and of groups; and the cues that come of it. */

const AT_REST: Scroll = { x: 0, y: 0, turn: 0, direction: null, fired: [] };

/** How far something can be scrolled. `key` is '' for the scene itself, else the node of a group. */
export function scrollRange(runner: Runner, scene: string, key: string): { x: number; y: number } {
  const program = runner.program.scenes.get(scene);
  if (!program) return { x: 0, y: 0 };
  if (key === '') return { x: 0, y: Math.max(0, (program.scene.contentHeight ?? 0) - program.scene.height) };
  const root = runner.root(scene);
  const shown = root && standingRoot(runner.program, runner.run, root).all.find((one) => one.node.key === key);
  const inside = shown && childrenBox(shown);
  if (!shown || !inside) return { x: 0, y: 0 };
  const { scroll } = shown.node.layer;
  return {
    x: scroll === 'y' ? 0 : Math.max(0, inside.x + inside.width - shown.width),
    y: scroll === 'x' ? 0 : Math.max(0, inside.y + inside.height - shown.height),
  };
}

/** Scrolls to a place, as far as that goes, and runs the cues for it. */
export function scrollTo(runner: Runner, scene: string, key: string, x: number, y: number): void {
  const root = runner.root(scene);
  if (!root) return;
  const range = scrollRange(runner, scene, key);
  const old = root.scroll[key] ?? AT_REST;
  const to = { x: Math.min(range.x, Math.max(0, x)), y: Math.min(range.y, Math.max(0, y)) };
  if (to.x === old.x && to.y === old.y) return;
  const seen = viewCues(runner, scene);
  const next = turned(old, to);
  runner.store.set(scene, 'scroll', key, next);
  scrollCues(runner, scene, key, next);
  for (const { node, isSeen } of viewCues(runner, scene))
    if (isSeen && seen.some((one) => one.node === node && !one.isSeen))
      runner.nodeCue(scene, node, { type: 'in view' }, `${node.layer.name} came into view`);
}

/** Where the direction turns, counting begins anew. */
function turned(old: Scroll, to: { x: number; y: number }): Scroll {
  const direction = to.y > old.y ? 'down' : to.y < old.y ? 'up' : old.direction;
  return direction === old.direction ? { ...old, ...to } : { ...to, turn: old.y, direction, fired: [] };
}

function scrollCues(runner: Runner, scene: string, key: string, scroll: Scroll): void {
  const occasion = { type: 'scroll', direction: scroll.direction, by: Math.abs(scroll.y - scroll.turn) } as const;
  const calls = runner.callsIn(scene, runner.expansion(scene), occasion).filter((call) => {
    const isAbout = key === '' ? call.node?.layer.scroll === undefined : call.node?.key === key;
    return isAbout && !scroll.fired.includes(`${call.instance.key}:${call.thread.id}`);
  });
  if (calls.length === 0) return;
  const fired = [...scroll.fired, ...calls.map((call) => `${call.instance.key}:${call.thread.id}`)];
  runner.store.set(scene, 'scroll', key, { ...scroll, fired });
  runner.happen(`scrolled ${scroll.direction}`, () => calls);
}

/** The layers with a cue for coming into view, and whether they are in it now. */
function viewCues(runner: Runner, scene: string) {
  const expansion = runner.expansion(scene);
  if (!expansion.nodes.some((node) => node.item.threads.some((thread) => thread.enabled && waitsFor(thread.cue, 'in view')))) return [];
  const { width, height } = expansion.root.scene;
  const view = { x: 0, y: 0, width, height };
  return standingRoot(runner.program, runner.run, runner.root(scene)!)
    .all.filter((shown) => shown.node.item.threads.some((thread) => waitsFor(thread.cue, 'in view')))
    .map((shown) => ({ node: shown.node, isSeen: overlaps(boundsOf(shown), view) }));
}
