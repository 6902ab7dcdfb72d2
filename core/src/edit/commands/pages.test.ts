import { describe, expect, test } from 'vitest';
import { framesOf, layersUnder, threadsOf, type Piece } from '../../piece/piece.ts';
import { unwrap } from '../../result.ts';
import { build } from '../../testing/index.ts';
import { apply } from '../apply.ts';
import { bringInPages, type BroughtIn, type PageLink } from './pages.ts';

/** Ids that say their number. */
const counter =
  (made = 0) =>
  () =>
    `i${++made}`;

const page = (file: string, links: readonly PageLink[] = [], more: Partial<BroughtIn> = {}): BroughtIn => ({
  asset: { id: file.padEnd(64, '0').replace(/[^0-9a-f]/g, 'a'), name: file, mediaType: 'image/png', size: 10, width: 400, height: 200 },
  file,
  links,
  ...more,
});
const link = (name: string, to: PageLink['to'], area = { x: 0.25, y: 0.5, width: 0.5, height: 0.25 }): PageLink => ({ name, area, to });

function broughtIn(piece: Piece, pages: readonly BroughtIn[], fit = false) {
  const { operations, left } = bringInPages(piece, pages, fit, counter());
  const after = unwrap(apply(piece, operations)).piece;
  const areas = framesOf(after).map((frame) => ({
    frame: frame.name,
    areas: layersUnder(after, frame.id, null)
      .filter(({ type }) => type === 'hit')
      .map((layer) => {
        const [thread] = threadsOf(after, layer.id);
        const [step] = thread!.branches[0]!.steps;
        const to =
          step?.do === 'go' && step.target.to === 'frame' ? after.scenes.get(step.target.frame!)!.name : step?.do === 'open' ? step.address : '?';
        return { name: layer.name, pose: layer.pose, cue: thread!.cue.type, to };
      }),
  }));
  return { after, areas, left };
}

describe('links of pages', () => {
  test('lead to files that come with them, to frames that are called alike, and to the web', () => {
    const piece = build({ trip: { name: 'Day trip', layers: { Go: { at: [0, 0, 9, 9] } } } });
    const { areas, left } = broughtIn(piece, [
      page('home.svg', [
        link('Pay', { file: 'site/PAY.svg#top' }),
        link('Trip', { file: 'day%20trip.svg' }),
        link('Pay', { address: 'https://kittiwake.example/' }),
      ]),
      page('Pay.svg'),
    ]);
    const pose = { x: 100, y: 100, width: 200, height: 50 };
    expect(areas).toEqual([
      { frame: 'Day trip', areas: [] },
      {
        frame: 'home',
        areas: [
          { name: 'Pay', pose, cue: 'click', to: 'Pay' },
          { name: 'Trip', pose, cue: 'click', to: 'Day trip' },
          { name: 'Pay 2', pose, cue: 'click', to: 'https://kittiwake.example/' },
        ],
      },
      { frame: 'Pay', areas: [] },
    ]);
    expect(left).toEqual([]);
  });

  test('stand where the picture stands when it is fitted into the frame, and where the page has a size of its own', () => {
    const piece = build({ first: { name: 'Frame 1' } });
    const one = [page('a.png', [link('On', { file: 'a.png' })])];
    // 390 × 195 in the middle of 390 × 844.
    expect(broughtIn(piece, one, true).areas[0]!.areas[0]!.pose).toEqual({ x: 98, y: 422, width: 195, height: 49 });
    const small = broughtIn(piece, [page('a.png', [link('On', { file: 'a.png' })], { title: 'Quay', size: { width: 200, height: 100 } })]);
    expect(small.areas).toEqual([
      { frame: 'Quay', areas: [{ name: 'On', pose: { x: 50, y: 50, width: 100, height: 25 }, cue: 'click', to: 'Quay' }] },
    ]);
  });

  test('that lead nowhere are left, each with what and why', () => {
    const { areas, left } = broughtIn(build({ first: { name: 'Frame 1' } }), [
      page('a.png', [link('Far', { file: 'far.png' }), link('Run', { address: 'javascript:alert(1)' }), link('', { file: 'a.png' })]),
    ]);
    expect(areas[0]!.areas.map(({ name }) => name)).toEqual(['Link']);
    expect(left).toEqual([
      'a, Far: “far.png” is not among what came in, and no frame is called so',
      'a, Run: “javascript:alert(1)” is no address that can be opened',
    ]);
    const many = broughtIn(build({}), [
      page(
        'a.png',
        Array.from({ length: 203 }, (_, i) => link(`L${i}`, { file: 'a.png' }))
      ),
    ]);
    expect(many.areas[0]!.areas).toHaveLength(200);
    expect(many.left).toEqual(['a: 3 of its 203 links']);
  });
});
