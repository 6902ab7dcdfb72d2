import type { SceneProgram } from '../../program/program.ts';
import { illegibleIn, type Illegible } from '../legible.ts';
import { inScenes } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const lowContrast: Rule = {
  id: 'low-contrast',
  words: 'hard to read',
  meaning:
    'text under the contrast that WCAG 2.2, 1.4.3 asks for (4.5 to 1, large text 3 to 1), as drawn or in some state or look; on pictures nothing is said',
  spares: 'large text from 3 to 1, what is disabled or fainter than a tenth, and text on pictures or on what has no one colour',
  check: ({ program }) => {
    const found = new Map<string, Finding>();
    const { swatches, typeStyles } = program.piece.head;
    const says = (frame: SceneProgram) => illegibleIn(program, frame.scene.id).map(hardToRead);
    for (const one of inScenes(program, 'low-contrast', program.frames, [swatches, typeStyles], says, carriesNothing))
      if (!found.has(one.id)) found.set(one.id, one);
    return [...found.values()];
  },
};

const carriesNothing = ({ scene }: SceneProgram): boolean => !scene.carries?.length;

function hardToRead({ node, contrast, wanted, when }: Illegible): Finding {
  const { scene, id, name } = node.layer;
  const sentence = `${name} has a contrast of ${ratio(contrast)} to 1${when ? `, ${when}` : ''}; ${wanted} to 1 is needed.`;
  return finding('low-contrast', 'look', { scene, layer: id }, `${name} is hard to read`, sentence);
}

/** Rounded down, so that nothing seems to be enough that is not. */
const ratio = (contrast: number) => Math.floor(contrast * 10) / 10;
