import type { CueType } from '../cues/schemas.ts';
import { threadsAt, type Node } from '../program/node.ts';
import { boundsOf, type Screen, type Shown, type Surface } from '../program/resolve.ts';
import { overlaps } from '../program/geometry.ts';
import { hiddenOf } from '../run/reach.ts';
import type { RunState } from '../run/state.ts';
import type { Covered } from './exploration.ts';

/** From this share on a layer counts as mostly hidden. */
export const MOSTLY = 0.5;

const PRESSED: ReadonlySet<CueType> = new Set([
  'click',
  'press',
  'release',
  'double click',
  'long press',
  'hover',
  'swipe',
  'drag start',
  'drag',
  'drop',
]);

/** Keeps account of which layers to press others take, over all states that are met. What is open in one state is not covered. */
export class Sights {
  private readonly open = new Set<string>();
  private readonly worst = new Map<string, Covered>();

  see(screen: Screen, run: RunState, state: number): void {
    for (const surface of screen.surfaces) {
      const taking = surface.all.filter((shown) => shown.node.catches);
      for (const shown of surface.all)
        if (isPressed(shown.node) && !this.open.has(shown.node.key)) this.judge(screen, run, state, surface, shown, taking);
    }
  }

  result = (): readonly Covered[] => [...this.worst.values()];

  private judge(screen: Screen, run: RunState, state: number, surface: Surface, shown: Shown, taking: readonly Shown[]): void {
    const { key } = shown.node;
    const hidden = mayBeHidden(screen, surface, shown, taking) ? hiddenOf(screen, run, surface, shown) : CLEAR;
    if (!hidden) return;
    if (hidden.share < MOSTLY || !hidden.by || (hidden.share < 1 && isVeil(screen, boundsOf(shown)))) {
      this.open.add(key);
      this.worst.delete(key);
      return;
    }
    const old = this.worst.get(key);
    if (!old || hidden.share < old.share) this.worst.set(key, { node: shown.node, by: hidden.by.node, share: hidden.share, state });
  }
}

const CLEAR = { share: 0, by: null };

const isPressed = (node: Node) => threadsAt(node).some(({ enabled, cue }) => enabled && PRESSED.has(cue.type));

/** As large as half the view: what is meant to be pressed anywhere beside what lies on it. */
export function isVeil(
  view: { readonly width: number; readonly height: number },
  { width, height }: { readonly width: number; readonly height: number }
): boolean {
  return Math.min(width, view.width) * Math.min(height, view.height) >= (view.width * view.height) / 2;
}

/** Whether anything that takes presses stands in front of a layer at all. */
function mayBeHidden(screen: Screen, surface: Surface, shown: Shown, taking: readonly Shown[]): boolean {
  const box = boundsOf(shown);
  if (screen.surfaces.indexOf(surface) < screen.surfaces.length - 1) return true;
  return taking.some((other) => other.node.at > shown.node.at && overlaps(boundsOf(other), box));
}
