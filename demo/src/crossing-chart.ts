import { Maker } from './maker.ts';
import { chart, chartTitle, island } from './pictures.ts';

/** The crossing chart for schools: finished page pictures with hit areas over what is painted on them. */
export async function crossingChart(): Promise<Maker> {
  const make = new Maker('crossing', 'Crossing chart', 1024, 768);
  const page = async (name: string, bytes: Promise<Buffer>) => {
    make.page(name);
    const asset = make.picture(`${name.toLowerCase()}.png`, 'image/png', await bytes, 1024, 768);
    make.layer('picture', 'Page', [0, 0, 1024, 768], { asset, fit: 'contain', locked: true });
  };
  await page('Title', chartTitle());
  make.layer('hit', 'Enter', [96, 410, 220, 72], { threads: 'click → go to Chart · dissolve 400 ms ease-in-out' });

  await page('Chart', chart());
  make.layer('hit', 'Skarra', [200, 145, 232, 180], { threads: 'click → go to Skarra · push left 350 ms ease-out' });
  make.layer('hit', 'Tolm', [540, 335, 212, 152], { threads: 'click → go to Tolm · push left 350 ms ease-out' });
  make.layer('hit', 'Inne', [780, 125, 182, 142], { threads: 'click → go to Inne · push left 350 ms ease-out' });
  make.layer('hit', 'Title of the chart', [0, 0, 1024, 76], { threads: 'click → go to first · push right 350 ms ease-out' });

  const islands = [
    ['Skarra', '#7fa08c', ['A lighthouse with 212 steps', '41 people, 300 sheep', '35 minutes from the harbour']],
    ['Tolm', '#b8a76d', ['A beach that sings in the wind', '12 people, one bakery', '50 minutes from the harbour']],
    ['Inne', '#8c9a5b', ['Nobody lives here but kittiwakes', 'Boats land only in still weather', '80 minutes from the harbour']],
  ] as const;
  for (const [name, ground, facts] of islands) {
    await page(name, island(name, ground, facts));
    make.layer('hit', 'Back to the chart', [96, 640, 220, 60], { threads: 'click → go to back · push right 350 ms ease-out' });
    make.layer('hit', 'Start', [336, 640, 120, 60], { threads: 'click → go to start · dissolve 400 ms ease-in-out' });
  }
  make.everywhere(
    'key ArrowRight → go to next · push left 250 ms ease-out\nkey ArrowLeft → go to previous · push right 250 ms ease-out\nkey Home → go to first\nkey End → go to last'
  );
  return make;
}
