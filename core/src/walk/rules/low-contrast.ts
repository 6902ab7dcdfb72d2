import { illegibleIn } from '../legible.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const lowContrast: Rule = {
  id: 'low-contrast',
  words: 'hard to read',
  meaning:
    'text under the contrast that WCAG 2.2, 1.4.3 asks for (4.5 to 1, large text 3 to 1), as drawn or in some state or look; on pictures nothing is said',
  spares: 'large text from 3 to 1, what is disabled or fainter than a tenth, and text on pictures or on what has no one colour',
  check: ({ program }) => {
    const found = new Map<string, Finding>();
    for (const frame of program.frames)
      for (const { node, contrast, wanted, when } of illegibleIn(program, frame)) {
        const { scene, id, name } = node.layer;
        const sentence = `${name} has a contrast of ${ratio(contrast)} to 1${when ? `, ${when}` : ''}; ${wanted} to 1 is needed.`;
        const one = finding('low-contrast', 'look', { scene, layer: id }, `${name} is hard to read`, sentence);
        if (!found.has(one.id)) found.set(one.id, one);
      }
    return [...found.values()];
  },
};

/** Rounded down, so that nothing seems to be enough that is not. */
const ratio = (contrast: number) => Math.floor(contrast * 10) / 10;
