import { groupedBy } from '@zany/core';
import type { Ribbon } from './web';

/** What bundles that are folded by hand leave of the map: a piece of cloth each, which leads where its frames lead. */

/** What stands for a folded bundle at the ends of ribbons; no frame is called so. */
export const endOf = (bundle: string): string => `cloth:${bundle}`;

/**
 * Ribbons with folded bundles in place of their frames: those within one are gone, those from one to another are one.
 *
 * @param foldedAt the folded bundle that a frame is in; null where it is seen
 */
export function foldRibbons(ribbons: readonly Ribbon[], foldedAt: (frame: string) => string | null): readonly Ribbon[] {
  const end = (frame: string): string => {
    const bundle = foldedAt(frame);
    return bundle === null ? frame : endOf(bundle);
  };
  const [kept, folded] = [[] as Ribbon[], [] as Ribbon[]];
  for (const ribbon of ribbons) {
    const [from, to] = [end(ribbon.from), end(ribbon.to)];
    if (from === ribbon.from && to === ribbon.to) kept.push(ribbon);
    else if (from !== to) folded.push({ ...ribbon, key: `${from} ${to}`, from, to });
  }
  const taken = [...groupedBy(folded, ({ key }) => key).values()].map((list): Ribbon => ({
    ...list[0]!,
    stitches: list.flatMap(({ stitches }) => stitches),
    isToHub: list.every(({ isToHub }) => isToHub),
    isConditional: list.some(({ isConditional }) => isConditional),
  }));
  return [...kept, ...taken];
}
