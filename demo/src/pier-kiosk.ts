import { compose } from '@zany/core/testing';
import { Files } from './assets.ts';
import { films } from './films.ts';
import { pier } from './pictures.ts';
import { bell } from './sounds.ts';

const touched = { hover: { style: { fill: '#f7c968' } }, press: { style: { fill: '#d68f0d' } } } as const;

/** The kiosk on the pier: four hardware buttons, three films that end in the menu, and a bell. */
export async function pierKiosk() {
  const files = new Files();
  const evening = files.add('pier.jpg', 'image/jpeg', await pier(), 780, 360);
  const ring = files.add('bell.wav', 'audio/wav', bell(), 1, 1, 700);
  const frames = Object.fromEntries(
    (await films()).map((film) => {
      const asset = files.add(`${film.name}.webm`, 'video/webm', film.bytes, film.width, film.height, film.ms);
      const name = film.name[0]!.toUpperCase() + film.name.slice(1);
      return [
        name,
        {
          background: '#26232c',
          layers: {
            film: {
              at: [0, 0, 1024, 576] as const,
              type: 'video' as const,
              asset,
              media: { autoplay: true, muted: true },
              label: `The crossing to ${name}`,
              lines: ['media started → send film', 'media ended → go to Menu · dissolve 300 ms ease'],
            },
            caption: {
              at: [0, 596, 1024, 60] as const,
              type: 'text' as const,
              text: `The crossing to ${name}`,
              style: { ink: '#fbf7ee' },
              letters: { size: 32, align: 'center' as const, place: 'middle' as const },
            },
            stop: {
              at: [452, 680, 120, 56] as const,
              type: 'box' as const,
              style: { fill: '#f0b13c', corner: 28, ink: '#26232c' },
              text: 'Pause',
              letters: { size: 20 },
              looks: touched,
              lines: ['click → pause film'],
            },
            again: {
              at: [592, 680, 120, 56] as const,
              type: 'box' as const,
              style: { fill: '#f0b13c', corner: 28, ink: '#26232c' },
              text: 'Again',
              letters: { size: 20 },
              looks: touched,
              lines: ['click → start over film'],
            },
          },
          lines: ['pad 3 → go to Menu · dissolve 200 ms ease'],
        },
      ];
    })
  );
  const names = Object.keys(frames);
  const piece = compose({
    id: 'kiosk',
    name: 'Pier kiosk',
    size: [1024, 768],
    assets: files.list,
    variables: { Rings: { type: 'number', initial: 0, min: 0, max: 99 } },
    frames: {
      Menu: {
        background: '#1f4e5f',
        layers: {
          picture: { at: [0, 0, 1024, 420], type: 'picture', asset: evening, fit: 'cover' },
          Bell: { type: 'sound', asset: ring, at: [980, 20, 24, 24], label: 'Bell' },
          title: {
            at: [60, 440, 904, 60],
            type: 'text',
            text: 'Press a button on the pier',
            style: { ink: '#fbf7ee' },
            letters: { family: 'Bricolage Grotesque', size: 40, weight: 700 },
          },
          ...Object.fromEntries(
            names.map((name, i) => [
              `${i} ${name}`,
              {
                at: [60 + i * 308, 540, 288, 120] as const,
                type: 'box' as const,
                style: { fill: '#f0b13c', corner: 20, ink: '#26232c' },
                text: `${i}  ${name}`,
                letters: { size: 30, weight: 700 },
                looks: touched,
                lines: [`click → go to ${name} · dissolve 300 ms ease`],
              },
            ])
          ),
          rings: {
            at: [60, 690, 904, 40],
            type: 'text',
            text: 'The bell has rung {Rings} times today.',
            style: { ink: '#cfe1ea' },
            letters: { size: 20 },
          },
        },
        lines: [
          ...names.map((name, i) => `pad ${i} → play Bell; go to ${name} · dissolve 300 ms ease`),
          'pad 3 → set Rings to Rings + 1; with play Bell',
        ],
      },
      ...frames,
    },
  });
  return { piece, assets: files.bytes };
}
