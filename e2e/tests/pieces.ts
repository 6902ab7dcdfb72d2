import type { Piece } from '@zany/core';
import { compose } from '@zany/core/testing';

/** Pieces of the size of real work. */

const SECTIONS = ['Tickets', 'Tides', 'Islands', 'Bicycles', 'Harbour office', 'Geese', 'Lost property', 'Crew', 'Freight', 'Weather'];

/** A ticket app of so many frames in bundles of ten: each leads on, back and home, some to other bundles, some behind a condition. */
export function pieceOf(frames: number): Piece {
  const nameOf = (i: number) =>
    `${SECTIONS[Math.floor(i / 10) % SECTIONS.length]} ${i % 10 === 0 ? 'start' : (i % 10) + 1}${i >= 100 ? ` of ${Math.floor(i / 100) + 1}` : ''}`;
  const names = Array.from({ length: frames }, (_, i) => nameOf(i));
  const button = (y: number, text: string, line: string, fill = '#f0b13c') => ({
    at: [24, y, 342, 56] as const,
    style: { fill, corner: 12 },
    text,
    lines: [line],
  });
  const piece = compose({
    name: `Ferries ${frames}`,
    variables: { Seats: { type: 'number', initial: 4, min: 0, max: 40 } },
    frames: Object.fromEntries(
      names.map((name, i) => {
        const [next, across, start] = [names[(i + 1) % frames]!, names[(i * 7 + 11) % frames]!, names[Math.floor(i / 10) * 10]!];
        return [
          name,
          {
            background: ['#fbf7ee', '#e3f0ea', '#f1eadc', '#cfe1ea'][Math.floor(i / 10) % 4]!,
            bundle: `bundle${Math.floor(i / 10)}`,
            layers: {
              head: { at: [0, 0, 390, 88] as const, style: { fill: '#1f4e5f' } },
              title: {
                at: [24, 36, 300, 40] as const,
                type: 'text' as const,
                text: name,
                style: { ink: '#ffffff' },
                letters: { size: 22, weight: 700 },
              },
              on: button(
                180,
                'Go on',
                i % 5 === 2 ? `click → if Seats > 0 → go to ${next}; otherwise → go to ${start}` : `click → go to ${next} · push left 300 ms ease-out`
              ),
              ...(i % 3 === 0 ? { aside: button(260, 'Somewhere else', `click → go to ${across}`, '#ddd2bd') } : {}),
              ...(i % 10 ? { back: button(660, 'Back', 'click → go to back', '#fbf7ee') } : {}),
              home: button(760, 'Home', `click → go to ${names[0]}`, '#0b7a75'),
              ...(i % 10 ? { up: button(580, 'To the start', `click → go to ${start}`, '#ddd2bd') } : {}),
            },
          },
        ];
      })
    ),
  });
  const bundles = Object.fromEntries(
    Array.from({ length: Math.ceil(frames / 10) }, (_, i) => [
      `bundle${i}`,
      {
        name: `${SECTIONS[i % SECTIONS.length]}${i >= SECTIONS.length ? ` ${Math.floor(i / 10) + 1}` : ''}`,
        order: `a${String.fromCharCode(65 + (i >> 4))}${String.fromCharCode(97 + (i % 16))}`,
      },
    ])
  );
  return { ...piece, head: { ...piece.head, bundles } };
}
