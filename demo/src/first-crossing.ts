import { compose } from '@zany/core/testing';

/**
 * A small piece to learn by: three pages of the ticket app, of which one button is still to be wired, shows nothing when it is pointed at,
 * and one page leads nowhere.
 */
export function firstCrossing() {
  const bar = (title: string) => ({
    bar: { at: [0, 0, 390, 96] as const, type: 'box' as const, style: { fill: '#1f4e5f' } },
    title: {
      at: [24, 40, 342, 40] as const,
      type: 'text' as const,
      text: title,
      style: { ink: '#ffffff' },
      letters: { family: 'Bricolage Grotesque' as const, size: 26, weight: 700 },
    },
  });
  const said = (at: readonly [number, number, number, number], text: string, size = 17) => ({
    at,
    type: 'text' as const,
    text,
    style: { ink: '#26232c' },
    letters: { size },
  });
  const button = (at: readonly [number, number, number, number], text: string, fill: string) => ({
    at,
    type: 'box' as const,
    text,
    style: { fill, corner: 14, ink: '#26232c' },
    letters: { size: 19, weight: 700, align: 'center' as const, place: 'middle' as const },
  });
  return compose({
    id: 'firstcrossing',
    name: 'First crossing',
    size: [390, 844],
    frames: {
      Home: {
        background: '#fbf7ee',
        layers: {
          ...bar('Kittiwake Line'),
          hello: said([24, 130, 342, 60], 'The next boat to Tolm goes at 10:40 from the west pier.'),
          'Buy a ticket': {
            ...button([24, 230, 342, 64], 'Buy a ticket', '#f0b13c'),
            looks: { hover: { style: { fill: '#ffd57e' } }, press: { style: { fill: '#d68f0d' } } },
            lines: ['click → go to Ticket · push left 300 ms'],
          },
          'See the times': button([24, 314, 342, 64], 'See the times', '#cfe1ea'),
        },
      },
      Times: {
        background: '#fbf7ee',
        layers: {
          ...bar('Times'),
          ...Object.fromEntries(
            ['08:10  Skarra', '10:40  Tolm', '13:05  Inne', '16:30  Tolm'].map((text, i) => [
              `boat ${i + 1}`,
              said([24, 130 + i * 56, 342, 30], text, 19),
            ])
          ),
          'Back home': {
            ...button([24, 740, 342, 64], 'Back home', '#cfe1ea'),
            looks: { hover: { style: { fill: '#e3eef3' } }, press: { style: { fill: '#a9c8d6' } } },
            lines: ['click → go to Home · push right 300 ms'],
          },
        },
      },
      Ticket: {
        background: '#fbf7ee',
        layers: {
          ...bar('Your ticket'),
          number: said([24, 130, 342, 60], 'One grown-up to Tolm and back. Show this at the pier.'),
          stub: { at: [24, 220, 342, 160], type: 'box', style: { fill: '#eadfc9', corner: 14 } },
        },
      },
    },
  });
}
