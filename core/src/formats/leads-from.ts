import type { Rect } from '../program/geometry.ts';
import { threadsAt, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { boundsOf, standingScreen, type Screen, type Stood, type Surface } from '../run/resolve.ts';
import { advance } from '../run/run.ts';
import type { RunState } from '../run/state.ts';
import { stillRun, type Still } from '../run/still.ts';

/** Where a click leads from a frame: for documents that can lead from page to page, but remember nothing. */

export interface Lead {
  /** The layer. */
  readonly name: string;
  /** Where it is seen on the frame, CSS px. */
  readonly area: Rect;
  readonly to: { readonly frame: string } | { readonly address: string };
}

/** Cues of what a click does. */
const CLICKED = new Set(['click', 'press', 'release']);

/**
 * What leads on from a frame that looks as asked for, from back to front: to another frame or to a web address, at once. What the engine
 * says comes of a click there, and nothing else: what other variables would lead to is not in it.
 */
export function leadsFrom(program: Program, frame: string, still: Still = {}): readonly Lead[] {
  const run = stillRun(program, frame, still);
  if (!run) return [];
  const screen = standingScreen(program, run);
  return screen.surfaces.flatMap((surface) =>
    surface.all
      .filter(({ node }) => isClicked(node))
      .flatMap((shown): Lead[] => {
        const to = whereTo(program, run, shown.node.key);
        const area = areaSeen(shown, surface, screen);
        return to && area ? [{ name: shown.node.layer.name, area, to }] : [];
      })
  );
}

const isClicked = (node: Node): boolean => threadsAt(node).some(({ enabled, cue }) => enabled && CLICKED.has(cue.type));

function whereTo(program: Program, run: RunState, layer: string): Lead['to'] | null {
  const { run: after, reports } = advance(program, run, { type: 'click', layer });
  const opened = reports.flatMap(({ effects }) => effects).find((effect) => effect.type === 'open');
  if (opened) return { address: opened.address };
  return after.frame === run.frame ? null : { frame: after.frame };
}

/** Where of a screen something is seen, CSS px; null where it is not. */
export const areaSeen = (shown: Stood, surface: Surface<Stood>, { width, height }: Pick<Screen<Stood>, 'width' | 'height'>): Rect | null =>
  meeting(boundsOf(shown), surface, { x: 0, y: 0, width, height });

/** What all have in common; null for nothing. */
function meeting(...areas: readonly Rect[]): Rect | null {
  const left = Math.max(...areas.map(({ x }) => x));
  const top = Math.max(...areas.map(({ y }) => y));
  const width = Math.min(...areas.map((area) => area.x + area.width)) - left;
  const height = Math.min(...areas.map((area) => area.y + area.height)) - top;
  return width > 0 && height > 0 ? { x: left, y: top, width, height } : null;
}
