import { readFileSync } from 'node:fs';
import { compile, readPackage, readPiece, sectionsOf, stillScreen, unwrap, type Piece, type Program, type Shown } from '@zany/core';
import { Seam } from './seam.ts';
import { expect, test, type Studio } from './studio.ts';

/** The frame that is all time in the demo's lesson on the tide, made by hand from an empty piece and a drawing. */

const drawing = `<svg xmlns="http://www.w3.org/2000/svg" width="1024" height="768" viewBox="0 0 1024 768">
  <rect id="all" width="1024" height="768" fill="#cfe1ea"/>
  <path id="sea" fill="#4d8794" d="M0 537.6C256 506.88 256 568.32 512 537.6C768 506.88 768 568.32 1024 537.6L1024 768L0 768Z"/>
  <path id="high water" fill="#4d8794" d="M0 230.4C256 199.68 256 261.12 512 230.4C768 199.68 768 261.12 1024 230.4L1024 768L0 768Z"/>
  <circle id="moon" cx="145" cy="205" r="45" fill="#fbf7ee"/>
  <rect id="boat" x="430" y="480" width="160" height="50" rx="6" fill="#b23a26"/>
  <path id="frame line" d="M40 642L984 642" fill="none" stroke="#1f4e5f" stroke-width="3"/>
  <path id="wing" d="M200 150L260 132L320 150" fill="none" stroke="#26232c" stroke-width="4"/>
  <path id="wing down" d="M200 132L260 156L320 132" fill="none" stroke="#26232c" stroke-width="4"/>
</svg>`;

type Key = readonly [time: number, value: number | string, easing?: string];

/** A designer at the seam. */
class Hand {
  readonly seam: Seam;
  constructor(readonly studio: Studio) {
    this.seam = new Seam(studio);
  }

  get page() {
    return this.studio.page;
  }

  async field(label: string, value: string): Promise<void> {
    const field = this.page.getByLabel(label, { exact: true });
    await field.fill(value);
    await field.press('Enter');
  }

  /** What is set at the foot of the cue sheet, or behind its dots. */
  async set(property: string, value: number | string): Promise<void> {
    const bar = this.page.getByRole('toolbar', { name: 'Properties' });
    if (['x', 'y', 'width', 'height'].includes(property)) {
      await bar.getByLabel(property, { exact: true }).fill(String(value));
      return bar.getByLabel(property, { exact: true }).press('Enter');
    }
    if (property === 'size') return this.field('Size of the text', String(value));
    if (property === 'opacity') return this.field('Opacity', String(Number(value) * 100));
    if (property === 'fill') return bar.getByLabel('Fill', { exact: true }).fill(String(value));
    if (property === 'ink') return bar.getByLabel('Colour of the text', { exact: true }).fill(String(value));
    if (property === 'path') return this.seam.add(`outline of ${value}`);
    await this.page.getByRole('button', { name: 'More properties' }).click();
    const more = this.page.getByRole('dialog', { name: 'More properties' });
    const fields: Record<string, [string, number | string]> = {
      scale: ['Scale', Number(value) * 100],
      rotation: ['Turned by', value],
      corner: ['Corner', value],
      lineColor: ['Colour of the line', value],
      lineWidth: ['Width of the line', value],
    };
    const [label, text] = fields[property]!;
    await more.getByLabel(label, { exact: true }).fill(String(text));
    if (property !== 'lineColor') await more.getByLabel(label, { exact: true }).press('Enter');
    await this.page.keyboard.press('Escape');
    await expect(more).toBeHidden();
  }

  /** An outline that it had before is copied from its first key. */
  private async change(layer: string, property: string, [time, value]: Key): Promise<void> {
    if (property !== 'path' || value !== layer) return this.set(property, value);
    await this.page
      .getByRole('gridcell', { name: new RegExp(`^${layer}: `) })
      .locator('[data-knot="0"]')
      .click();
    await this.page.keyboard.press('Control+c');
    await this.seam.stand(String(time + 1));
    await this.page.keyboard.press('m');
    await this.page.keyboard.press('Control+v');
  }

  /** Gives the selected layer a property's keys; what it has at a moment already is held there by a key. */
  async keys(layer: string, property: string, words: string, keys: readonly Key[]): Promise<void> {
    let before: Key | undefined;
    for (const key of keys) {
      await this.seam.stand(String(key[0] + 1));
      if (!before || before[1] === key[1]) await this.seam.add(words);
      if (before?.[1] !== key[1] && (before || property !== 'path')) await this.change(layer, property, key);
      before = key;
    }
    await this.page.getByRole('button', { name: `Open ${layer}`, exact: true }).click();
    const row = this.page.getByRole('gridcell', { name: new RegExp(`^${layer}, ${words}: `) });
    const knots = await row.locator('[data-knot]').evaluateAll((all) => all.map((one) => Number(one.getAttribute('data-knot'))));
    for (const time of knots.filter((one) => !keys.some(([wanted]) => wanted === one))) {
      await row.locator(`[data-knot="${time}"]`).click();
      await this.page.keyboard.press('Delete');
    }
    for (const [time, , easing] of keys) {
      if (!easing) continue;
      await row.locator(`[data-knot="${time}"]`).click();
      await this.page.getByRole('button', { name: /^Easing/ }).click();
      await this.field('Easing, as CSS writes it', easing);
      await this.page.keyboard.press('Escape');
    }
    await row.focus();
    await row.press('Enter');
  }

  async rename(name: string): Promise<void> {
    await this.page.keyboard.press('F2');
    await this.page.keyboard.type(name);
    await this.page.keyboard.press('Enter');
  }
}

const nameOf = (of: Piece, path: string) =>
  path
    .split('/')
    .map((id) => of.layers.get(id)?.name)
    .join('/');
const scenes = (of: Piece) => new Map([...of.scenes.values()].map((scene) => [scene.name, scene]));

/** Sections, spans and cues by name. */
function order(of: Piece, scene: string) {
  const { timeline } = scenes(of).get(scene)!;
  const label = (id: string | null) => (id === null ? null : (timeline!.labels?.[id]?.name ?? null));
  return {
    length: timeline!.length,
    sections: sectionsOf(timeline!).map(({ label: id, from, to, ending }) => [
      label(id),
      from,
      to,
      ending.do === 'go to' ? label(ending.label) : ending.do,
    ]),
    spans: Object.values(timeline!.spans ?? {})
      .map(({ layer, from, to }) => `${nameOf(of, layer)} ${from} ${to}`)
      .sort(),
    cues: Object.values(timeline!.cues ?? {})
      .map(({ layer, time, do: what }) => `${nameOf(of, layer)} ${time} ${what}`)
      .sort(),
  };
}

/** The box of what is shown, on the screen, whatever it is in; nothing here is turned that holds something. */
function boxOf(at: Shown): { x: number; y: number; width: number; height: number } {
  const { parent } = at;
  if (!parent) return at;
  const around = boxOf(parent);
  const part = parent.node.inside?.scene.scene;
  const [sx, sy] = part ? [around.width / part.width, around.height / part.height] : [1, 1];
  return { x: around.x + at.x * sx, y: around.y + at.y * sy, width: at.width * sx, height: at.height * sy };
}

/** What stands on the screen at a moment, by name, in numbers that can be compared. */
function picture(program: Program, scene: string, frame: number): Record<string, (number | string)[]> {
  const { piece } = program;
  const shown = stillScreen(program, scenes(piece).get(scene)!.id, { frame })!.surfaces[0]!.all;
  const found: Record<string, (number | string)[]> = {};
  for (const one of shown) {
    const { layer, key } = one.node;
    if (layer.type === 'group' || layer.type === 'placement') continue;
    const { x, y, width, height } = boxOf(one);
    const numbers: (number | string)[] = [
      one.rotation,
      one.scale,
      one.opacity,
      one.style.fill ?? '',
      one.style.line?.color ?? '',
      one.style.line?.width ?? 0,
    ];
    if (layer.path === undefined) numbers.push(x, y, width, height, one.style.corner ?? 0);
    // An outline is where its points are, whatever box it is drawn in.
    else
      [...one.path!.matchAll(/-?[\d.]+/g)].forEach(([n], i) => numbers.push(i % 2 ? y + (Number(n) / 100) * height : x + (Number(n) / 100) * width));
    if (layer.type === 'text') numbers.push(one.text ?? '', one.letters.size ?? 16, one.style.ink ?? '');
    found[nameOf(piece, key)] = numbers;
  }
  return found;
}

test('the tide lesson, made by hand, is at every moment what the composed one is', async ({ studio, page }) => {
  test.setTimeout(480_000);
  page.setDefaultTimeout(25_000);
  const hand = new Hand(studio);
  const { seam } = hand;
  const id = await studio.newPiece('Tide by hand', 1024, 768);

  // What is drawn, and what is written on it.
  await page.locator('[data-chooser]').setInputFiles({ name: 'Harbour.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) });
  await page.getByRole('button', { name: /^As layers in/ }).click();
  await expect(studio.row('wing down')).toBeVisible();
  await studio.select('Harbour');
  await page.keyboard.press('Control+Shift+G');
  await studio.select('all');
  await page.keyboard.press('Delete');
  for (const [name, text, x, y, width] of [
    ['title', 'The tide: {if Frame 1.section = "" then "begin" else Frame 1.section}', 40, 24, 944],
    ['storm words', 'In a storm no boat leaves.', 300, 330, 424],
  ] as const) {
    await studio.draw('x', x, y, width, 60);
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Escape');
    await hand.rename(name);
  }
  await hand.set('ink', '#fbf7ee');
  await hand.set('height', 60);
  await hand.set('size', 22);
  await studio.select('title');
  await hand.set('size', 30);
  const buttons = ['Flood', 'Ebb', 'Storm', 'Stop'];
  for (const [i, name] of buttons.entries()) {
    await studio.draw('b', 56 + i * 220, 690, 200, 56);
    await hand.rename(name);
    await hand.set('width', 200);
    await hand.set('corner', 14);
  }

  // A gull with a time of its own, in three places.
  await studio.select('wing');
  await studio.select('wing down', ['Control']);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('make a part');
  await page.keyboard.press('Enter');
  await page.keyboard.press('F2');
  await page.keyboard.type('one');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Shift+Enter');
  await page.keyboard.press('m');
  await seam.begin('Rise, Fall', 0.5);
  await page.getByRole('button', { name: /^Ending of Rise/ }).click();
  await page.getByRole('option', { name: /^goes on/ }).click();
  await page.getByRole('button', { name: /^Ending of Fall/ }).click();
  await page.getByRole('option', { name: /^loops begins/ }).click();
  await studio.select('wing');
  await hand.keys('wing', 'path', 'outline', [
    [0, 'wing'],
    [12, 'wing down', 'ease-in-out'],
    [23, 'wing'],
  ]);
  await hand.keys('wing', 'lineWidth', 'line width', [
    [0, 4],
    [12, 7],
  ]);
  await studio.select('wing down');
  await page.keyboard.press('Delete');
  await expect(studio.row('wing down')).toHaveCount(0);
  await page.keyboard.press('Shift+Escape');
  await studio.select('one');
  for (const [name, x, y, width, height] of [
    ['two', 500, 196, 160, 32],
    ['three', 840, 88, 80, 16],
  ] as const) {
    await page.keyboard.press('Control+d');
    await hand.rename(name);
    for (const [property, value] of Object.entries({ x, y, width, height })) await hand.set(property, value);
  }

  // Sections: Flood twice as long, Ebb leads back, the storm goes on and on.
  await page.keyboard.press('Escape');
  await page.keyboard.press('m');
  await seam.begin('Begin, Flood, Ebb, Storm', 1);
  await page.getByRole('button', { name: 'Section Flood' }).focus();
  await page.keyboard.press('Space');
  await hand.field('Frames of the section', '48');
  await page.keyboard.press('Escape');
  for (const [name, ending] of [
    ['Ebb', /^goes to Begin/],
    ['Storm', /^loops begins/],
  ] as const) {
    await page.getByRole('button', { name: `Ending of ${name}` }).click();
    await page.getByRole('option', { name: ending }).click();
  }

  await studio.select('two');
  await seam.add('on return: go on');
  await studio.select('three');
  await seam.add('on return: play only once');
  await studio.select('one');
  await studio.select('two', ['Control']);
  await page.keyboard.press('Control+g');
  await hand.rename('gulls');
  await seam.stand('Flood');
  await seam.add('only in Flood');
  await studio.select('storm words');
  await seam.stand('Storm');
  await seam.add('only in Storm');
  for (const [moment, layer, cue] of [
    [61, 'one', 'pause here'],
    [63, 'one', 'play on here'],
    [67, 'two', 'start over here'],
  ] as const) {
    await seam.stand(String(moment));
    await studio.select(layer);
    await seam.add(cue);
  }

  await studio.select('sea');
  await hand.keys('sea', 'path', 'outline', [
    [0, 'sea'],
    [24, 'sea'],
    [60, 'high water', 'ease-in-out'],
    [72, 'high water'],
    [90, 'sea', 'ease-in'],
  ]);
  await hand.keys('sea', 'fill', 'fill', [
    [0, '#4d8794'],
    [60, '#2f6675'],
    [95, '#4d8794'],
    [100, '#32233b'],
  ]);
  await studio.select('high water');
  await page.keyboard.press('Delete');
  await studio.select('moon');
  for (const [property, keys] of Object.entries<Key[]>({
    x: [
      [0, 100],
      [24, 100],
      [71, 800],
      [95, 100],
    ],
    y: [
      [0, 160],
      [48, 60, 'ease-out'],
      [71, 160, 'ease-in'],
    ],
    opacity: [
      [0, 0.4],
      [48, 1],
      [95, 0.4],
    ],
  }))
    await hand.keys('moon', property, property, keys);
  await studio.select('boat');
  for (const [property, words, keys] of [
    [
      'y',
      'y',
      [
        [0, 480],
        [24, 480],
        [60, 250, 'ease-in-out'],
        [72, 250],
        [90, 480, 'ease-in'],
      ],
    ],
    [
      'width',
      'width',
      [
        [0, 160],
        [60, 180],
      ],
    ],
    [
      'height',
      'height',
      [
        [0, 50],
        [60, 56],
      ],
    ],
    [
      'corner',
      'corner',
      [
        [0, 6],
        [60, 16],
      ],
    ],
    [
      'scale',
      'scale',
      [
        [0, 1],
        [60, 1.2],
        [90, 1],
      ],
    ],
    [
      'rotation',
      'turned',
      [
        [96, -6],
        [108, 6],
        [119, -6],
      ],
    ],
  ] as const)
    await hand.keys('boat', property, words, keys);
  await studio.select('title');
  await hand.keys('title', 'size', 'size', [
    [0, 30],
    [24, 36],
  ]);
  await hand.keys('title', 'ink', 'ink', [
    [0, '#26232c'],
    [96, '#6d3a7c'],
  ]);
  await studio.select('frame line');
  await hand.keys('frame line', 'lineColor', 'line colour', [
    [0, '#1f4e5f'],
    [96, '#b23a26'],
  ]);

  // What leads where.
  for (const [name, line] of [
    ['Flood', 'click → play from Flood'],
    ['Ebb', 'click → play from Ebb'],
    ['Storm', 'click → show label Storm; play on'],
    ['Stop', 'click → pause; pause gulls'],
  ] as const) {
    await studio.select(name);
    await studio.write(line);
    await expect(studio.row(name).getByRole('group', { name: `Thread: ${line}` })).toBeVisible();
  }
  await studio.saved();

  const answer = (await (await page.request.get(`/api/pieces/${id}`)).json()) as { piece: unknown };
  const made = unwrap(readPiece(answer.piece));
  const file = readFileSync(new URL('../../demo/pieces/6-tide-lesson.zip', import.meta.url));
  const { piece: composed } = unwrap(await readPackage(file, null));
  expect(order(made, 'Frame 1')).toEqual(order(composed, 'Lesson'));
  const [one, other] = [compile(made), compile(composed)];
  const unlike: string[] = [];
  for (let frame = 0; frame < 120; frame++) {
    const [ours, theirs] = [picture(one, 'Frame 1', frame), picture(other, 'Lesson', frame)];
    delete theirs['Over'];
    expect(Object.keys(ours).sort(), `what is there at ${frame}`).toEqual(Object.keys(theirs).sort());
    for (const [name, numbers] of Object.entries(theirs)) {
      const isAlike = numbers.every((value, i) => {
        const mine = ours[name]![i];
        return typeof value === 'number' ? Math.abs(Number(mine) - value) < (i < 6 ? 1e-6 : 0.2) : mine === value;
      });
      if (!isAlike) unlike.push(`${name} at ${frame}: ${JSON.stringify(ours[name])}, composed ${JSON.stringify(numbers)}`);
    }
  }
  expect(unlike).toEqual([]);
});
