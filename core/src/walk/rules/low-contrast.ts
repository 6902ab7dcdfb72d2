import type { SceneProgram } from '../../program/program.ts';
import { Beside } from '../../once.ts';
import { outwardNodes } from '../../program/node.ts';
import { illegibleIn, type Illegible } from '../legible.ts';
import { illegibleMet, routeToHard, whereHard, type Drawn, type IllegibleMet } from '../legible-met.ts';
import { selectableIn } from '../selectable.ts';
import { inScenes } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const lowContrast: Rule = {
  id: 'low-contrast',
  words: 'hard to read',
  meaning:
    'text under the contrast that WCAG 2.2, 1.4.3 asks for (4.5 to 1, large text 3 to 1), as drawn, in some state or look, where a section holds or a timeline has come to rest, or where several of these come together in a state that can be reached; on pictures nothing is said',
  spares:
    'large text from 3 to 1, what is disabled or fainter than a tenth, what a timeline has on its way, what is hidden and never comes up or selected by nothing, what stands on other ground wherever it can be come to, and text on pictures or on what has no one colour',
  check: ({ program, exploration }) => {
    const found = new Map<string, Finding>();
    const { swatches, typeStyles } = program.piece.head;
    const says = ({ scene: { id } }: SceneProgram) =>
      illegibleIn(program, id).map((one) => {
        const drawn = hardToRead(one);
        drawnOn.set(drawn, { frame: id, isAway: outwardNodes(one.node).some(({ layer }) => layer.hidden || layer.bindings?.shown !== undefined) });
        return drawn;
      });
    for (const one of inScenes(program, 'low-contrast', program.frames, [swatches, typeStyles, selectableIn(program)], says, carriesNothing)) {
      if (found.has(one.id)) continue;
      const { at, isNowhere } = whereHard(program, exploration, drawnOn.get(one)!, one.place.layer!);
      const route = at && routeToHard(program, at, one.place.layer!);
      if (!isNowhere) found.set(one.id, route ? { ...one, route } : one);
    }
    for (const met of illegibleMet(program, exploration)) {
      const one = hardWhereMet(met);
      const route = found.has(one.id) ? null : routeToHard(program, met, one.place.layer!);
      if (route) found.set(one.id, { ...one, route });
    }
    return [...found.values()];
  },
};

/** Where something was found as it is drawn. */
const drawnOn = new Beside<Finding, Drawn>();

const carriesNothing = ({ scene }: SceneProgram): boolean => !scene.carries?.length;

function hardToRead({ node, contrast, wanted, when }: Illegible): Finding {
  const { scene, id, name } = node.layer;
  const sentence = `${name} has a contrast of ${ratio(contrast)} to 1${when ? `, ${when}` : ''}; ${wanted} to 1 is needed.`;
  return finding('low-contrast', 'look', { scene, layer: id }, `${name} is hard to read`, sentence);
}

function hardWhereMet(one: IllegibleMet): Finding {
  const { contrast, wanted, when, node } = one;
  const sentence = `Where it can be come to like that, ${node.layer.name} has a contrast of ${ratio(contrast)} to 1${when ? `, ${when}` : ''}; ${wanted} to 1 is needed.`;
  return { ...hardToRead(one), sentence };
}

/** Rounded down, so that nothing seems to be enough that is not. */
const ratio = (contrast: number) => Math.floor(contrast * 10) / 10;
