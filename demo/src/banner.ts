import { Maker } from './maker.ts';
import { bannerPicture } from './pictures.ts';

/** A banner that turns its pictures by itself and by its arrows, and leaves by its call to action. */
export async function banner(): Promise<Maker> {
  const make = new Maker('banner', 'Summer banner', 300, 250);
  const words = ['Out with the tide', 'Home by lamplight', 'Islands for a day'];
  for (const n of [1, 2, 3] as const) {
    const asset = make.picture(`banner-${n}.jpg`, 'image/jpeg', await bannerPicture(n), 300, 250);
    const after = `Picture ${(n % 3) + 1}`;
    const before = `Picture ${((n + 1) % 3) + 1}`;
    make.page(`Picture ${n}`, {}, `after 4 s → go to ${after} · push left 500 ms ease-in-out`);
    make.layer('picture', 'Sea', [0, 0, 300, 250], { asset, fit: 'cover', locked: true });
    make.layer('text', 'Line', [16, 14, 268, 34], {
      text: words[n - 1]!,
      style: { ink: n === 2 ? '#fff6e2' : '#26232c' },
      letters: { family: 'Bricolage Grotesque', size: 24, weight: 800 },
    });
    make.layer('text', 'Arrow back', [0, 100, 44, 48], {
      text: '‹',
      style: { ink: '#ffffff' },
      letters: { size: 34, weight: 700, align: 'center', place: 'middle' },
      looks: { hover: { style: { ink: '#f0b13c' } }, press: { style: { ink: '#d68f0d' } } },
      threads: `click → go to ${before} · push right 300 ms ease-out`,
    });
    make.layer('text', 'Arrow on', [256, 100, 44, 48], {
      text: '›',
      style: { ink: '#ffffff' },
      letters: { size: 34, weight: 700, align: 'center', place: 'middle' },
      looks: { hover: { style: { ink: '#f0b13c' } }, press: { style: { ink: '#d68f0d' } } },
      threads: `click → go to ${after} · push left 300 ms ease-out`,
    });
    make.layer('box', 'Book a day', [75, 194, 150, 44], {
      style: { fill: '#f0b13c', corner: 22, ink: '#26232c' },
      text: 'Book a day',
      letters: { size: 17, weight: 700 },
      looks: { hover: { style: { fill: '#ffd57e' } }, press: { style: { fill: '#d68f0d' } } },
      threads: 'click → open https://www.kittiwake.example/summer?from=banner in new tab',
    });
  }
  return make;
}
