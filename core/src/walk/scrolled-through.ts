import type { Program } from '../program/program.ts';
import { childrenBox, standingScreen } from '../run/resolve.ts';
import type { RunState, Scroll } from '../run/state.ts';

/** So far it is scrolled in each direction. */
const MOST_PAGES = 40;

/** A run as it is, and with all groups that scroll scrolled on by a view at a time, down and then to the right, until each has come to its end. */
export function* scrolledThrough(program: Program, run: RunState): Iterable<RunState> {
  yield run;
  const groups = scrolledIn(program, run);
  for (const way of ['y', 'x'] as const) {
    const pages = Math.max(0, ...groups.map(({ range, page }) => Math.ceil(range[way] / page[way])));
    for (let i = 1; i <= Math.min(pages, MOST_PAGES); i++) {
      const roots = { ...run.roots };
      for (const { scene, key, range, page } of groups) {
        const to: Scroll = { x: 0, y: 0, turn: 0, direction: null, fired: [], [way]: Math.min(range[way], i * page[way]) };
        roots[scene] = { ...roots[scene]!, scroll: { ...roots[scene]!.scroll, [key]: to } };
      }
      yield { ...run, roots };
    }
  }
}

/** The groups that scroll on a screen, how far, and how much of each is in view. */
function scrolledIn(program: Program, run: RunState) {
  const { surfaces } = standingScreen(program, run);
  return surfaces.flatMap(({ scene, all }) =>
    all.flatMap((shown) => {
      const { scroll } = shown.node.layer;
      const inside = scroll && childrenBox(shown);
      if (!inside) return [];
      const range = {
        x: scroll === 'y' ? 0 : Math.max(0, inside.x + inside.width - shown.width),
        y: scroll === 'x' ? 0 : Math.max(0, inside.y + inside.height - shown.height),
      };
      return range.x > 0 || range.y > 0 ? [{ scene, key: shown.node.key, range, page: { x: shown.width, y: shown.height } }] : [];
    })
  );
}
