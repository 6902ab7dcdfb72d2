import type { CueType } from '../cues/schemas.ts';
import { threadsAt, type Node } from '../program/node.ts';
import { boundsOf, type Screen, type Stood, type Surface } from '../run/resolve.ts';
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

/** A layer to press as it is seen on a screen: how much of it others take. */
export interface Sight {
  readonly node: Node;
  /** 0 to 1, of what is in view of it. */
  readonly share: number;
  /** Who takes most of it; null where enough of it is open. */
  readonly by: Node | null;
}

/** All layers to press on a screen of which something is in view. */
export const sightsOn = (screen: Screen<Stood>, run: RunState): readonly Sight[] =>
  screen.surfaces.flatMap((surface) => {
    const taking = surface.all.filter((shown) => shown.node.catches);
    return surface.all.flatMap((shown) => (isPressed(shown.node) ? (sightOf(screen, run, surface, shown, taking) ?? []) : []));
  });

function sightOf(screen: Screen<Stood>, run: RunState, surface: Surface<Stood>, shown: Stood, taking: readonly Stood[]): Sight | null {
  const { node } = shown;
  const hidden = mayBeHidden(screen, surface, shown, taking) ? hiddenOf(screen, run, surface, shown) : CLEAR;
  if (!hidden) return null;
  const isOpen = hidden.share < MOSTLY || !hidden.by || (hidden.share < 1 && isVeil(screen, boundsOf(shown)));
  return { node, share: hidden.share, by: isOpen ? null : hidden.by!.node };
}

/** Keeps account of which layers to press others take, over all states that are met. What is open in one state is not covered. */
export class Sights {
  private readonly open = new Set<string>();
  private readonly worst = new Map<string, Covered>();

  see(sights: readonly Sight[], state: number): void {
    for (const { node, share, by } of sights) {
      const { key } = node;
      if (this.open.has(key)) continue;
      const old = this.worst.get(key);
      if (!by) {
        this.open.add(key);
        this.worst.delete(key);
      } else if (!old || share < old.share) this.worst.set(key, { node, by, share, state });
    }
  }

  result = (): readonly Covered[] => [...this.worst.values()];
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
function mayBeHidden(screen: Screen<Stood>, surface: Surface<Stood>, shown: Stood, taking: readonly Stood[]): boolean {
  const box = boundsOf(shown);
  if (screen.surfaces.indexOf(surface) < screen.surfaces.length - 1) return true;
  return taking.some((other) => other.node.at > shown.node.at && overlaps(boundsOf(other), box));
}
