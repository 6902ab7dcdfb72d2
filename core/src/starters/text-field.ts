import type { Starter } from './starter.ts';
import { ink, line, none, small, white } from './paint.ts';

/** A labelled field. */
export const textField: Starter = {
  id: 'text-field',
  name: 'Text field',
  meaning: 'words above a field to write in',
  parts: {
    'Text field': {
      size: [310, 76],
      background: none,
      layers: {
        Words: { at: [0, 0, 310, 24], type: 'text', text: 'Your name', style: { ink }, letters: { ...small, weight: 600 } },
        Field: {
          at: [0, 28, 310, 48],
          type: 'field',
          style: { fill: white, line, corner: 12, ink },
          letters: { size: 16, place: 'middle' },
          field: { kind: 'text', placeholder: 'Write here' },
          label: 'Your name',
          looks: { focus: { style: { line: { color: '#e59a00', width: 3 } } } },
        },
      },
    },
  },
};
