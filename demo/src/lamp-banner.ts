import { compose } from '@zany/core/testing';
import { Files } from './assets.ts';
import { bannerPicture } from './pictures.ts';

/** A banner of 300 × 250 whose pictures are one part in three states, moved by its arrows and by itself, with a measured way out. */
export async function lampBanner() {
  const files = new Files();
  const pictures = await Promise.all(
    ([1, 2, 3] as const).map(async (n) => files.add(`banner-${n}.jpg`, 'image/jpeg', await bannerPicture(n), 300, 250))
  );
  const arrow = (text: string, label: string) => ({
    type: 'text' as const,
    text,
    label,
    style: { ink: '#ffffff' },
    letters: { size: 34, weight: 700, align: 'center' as const, place: 'middle' as const },
    looks: { hover: { style: { ink: '#f7c968' } }, disabled: { style: { opacity: 0.25 } } },
  });
  const place = (at: number) => ({ film: { pose: { x: -300 * at } }, [`dot ${at + 1}`]: { style: { fill: '#f0b13c' } } });
  const piece = compose({
    id: 'lampbanner',
    name: 'Lamplight banner',
    size: [300, 250],
    assets: files.list,
    parts: {
      Carousel: {
        size: [300, 250],
        background: '#fbf7ee',
        states: { One: place(0), Two: place(1), Three: place(2) },
        layers: {
          film: { type: 'group', at: [0, 0, 900, 250], clip: true },
          ...Object.fromEntries(
            pictures.map((asset, i) => [
              `picture ${i + 1}`,
              { in: 'film', at: [i * 300, 0, 300, 250] as const, type: 'picture' as const, asset, fit: 'cover' as const },
            ])
          ),
          ...Object.fromEntries(
            [0, 1, 2].map((i) => [`dot ${i + 1}`, { at: [126 + i * 18, 172, 10, 10] as const, type: 'oval' as const, style: { fill: '#ffffffaa' } }])
          ),
          Back: {
            ...arrow('‹', 'Picture before'),
            at: [0, 90, 44, 60],
            when: { enabled: 'Carousel.state != "One"' },
            lines: ['click → previous state · tween 650 ms ease-in-out'],
          },
          On: {
            ...arrow('›', 'Next picture'),
            at: [256, 90, 44, 60],
            when: { enabled: 'Carousel.state != "Three"' },
            lines: ['click → next state · tween 650 ms ease-in-out'],
          },
        },
      },
    },
    frames: {
      Banner: {
        background: '#26232c',
        layers: {
          pictures: {
            part: 'Carousel',
            at: [0, 0, 300, 250],
            lines: ['state Three → tween scale of Book to 1.08 · 300 ms spring(0.5); tween scale of Book to 1 · 200 ms ease'],
          },
          line: {
            at: [16, 12, 268, 34],
            type: 'text',
            text: '{if pictures.state = "Two" then "Home by lamplight" else "Out with the tide"}',
            style: { ink: '#26232c' },
            letters: { family: 'Bricolage Grotesque', size: 24, weight: 800 },
          },
          Book: {
            at: [75, 194, 150, 44],
            type: 'box',
            style: { fill: '#f0b13c', corner: 22, ink: '#26232c' },
            text: 'Book a day',
            letters: { size: 17, weight: 700 },
            looks: { hover: { style: { fill: '#ffd57e' } }, press: { style: { fill: '#d68f0d' } } },
            lines: ['click → open https://www.kittiwake.example/summer in new tab as "lamplight-300x250"'],
          },
        },
        lines: [
          'after 4 s → next state of pictures · tween 650 ms ease-in-out',
          'after 8 s → next state of pictures · tween 650 ms ease-in-out',
          'after 12 s → put pictures in One · tween 900 ms ease-in-out',
        ],
      },
    },
  });
  return { piece, assets: files.bytes };
}
