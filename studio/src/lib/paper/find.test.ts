import { describe, expect, test } from 'vitest';
import { cutOut } from './cut';
import { findCuts } from './find';
import { blank, type Pixels } from './pixels';
import { boxQuad, distance, onto, quadOf, sizeOf, type Quad } from './quad';
import { photographed, TABLE, tableOf, type Box, type Sketch } from './testing/sketch';

const PHOTO = { width: 540, height: 720 } as const;
const straight = boxQuad(0, 0, TABLE.width, TABLE.height);
/** Seen from one side and from below. */
const aslant: Quad = [
  { x: 60, y: 20 },
  { x: 1150, y: 70 },
  { x: 1195, y: 1590 },
  { x: 5, y: 1520 },
];
const paper: Box = { x: 130, y: 110, width: 940, height: 1360 };
const FOUR: Box[] = [
  { x: 200, y: 190, width: 330, height: 540 },
  { x: 650, y: 200, width: 340, height: 530 },
  { x: 210, y: 830, width: 330, height: 550 },
  { x: 660, y: 820, width: 330, height: 560 },
];

const found = (sketch: Sketch, corners: Quad) => {
  const photo = photographed(tableOf(sketch), corners, PHOTO.width, PHOTO.height);
  const onTable = onto(corners, PHOTO.width, PHOTO.height);
  return findCuts(photo).map((quad) => quadOf((i) => onTable(quad[i])));
};

/** How far the corners of what was found are from those of a box, in units of the table. */
const off = (quad: Quad, box: Box) => {
  const drawn = boxQuad(box.x, box.y, box.width, box.height);
  return Math.max(...[0, 1, 2, 3].map((i) => distance(quad[i]!, drawn[i]!)));
};

describe('frames on paper', () => {
  for (const [name, corners] of [
    ['from above', straight],
    ['aslant', aslant],
  ] as const)
    test(`drawn as boxes are found, in reading order, ${name}`, () => {
      const quads = found({ paper, boxes: FOUR, lines: [0.12, 0.88] }, corners);
      expect(quads).toHaveLength(4);
      quads.forEach((quad, i) => expect(off(quad, FOUR[i]!)).toBeLessThan(20));
    });

  for (const [name, arrows] of [
    [
      'in a row',
      [
        [0, 1],
        [2, 3],
      ],
    ],
    [
      'in a ring',
      [
        [0, 1],
        [0, 2],
        [2, 3],
        [1, 3],
      ],
    ],
  ] as const)
    test(`are found apart where arrows lead from one to the other ${name}`, () => {
      for (const lines of [[], [0.12, 0.88]]) {
        const quads = found({ paper, boxes: FOUR, lines, arrows }, aslant);
        expect(quads).toHaveLength(4);
        quads.forEach((quad, i) => expect(off(quad, FOUR[i]!)).toBeLessThan(24));
      }
    });

  test('boxes in a box are part of it, and so is what lines part it into', () => {
    const frame: Box = { x: 200, y: 190, width: 700, height: 1180 };
    const cards = [260, 620].map((y): Box => ({ x: 260, y, width: 560, height: 300 }));
    for (const [boxes, lines] of [
      [[frame, ...cards], []],
      [[frame], [0.1, 0.5]],
    ] as const) {
      const [only, ...more] = found({ paper, boxes, lines }, straight);
      expect(more).toEqual([]);
      expect(off(only!, frame)).toBeLessThan(24);
    }
  });

  test('lie inside of the lines that hold them', () => {
    for (const [i, quad] of found({ paper, boxes: FOUR }, straight).entries()) {
      const { x, y, width, height } = FOUR[i]!;
      for (const corner of quad) {
        expect(corner.x).toBeGreaterThan(x - 1);
        expect(corner.x).toBeLessThan(x + width + 1);
        expect(corner.y).toBeGreaterThan(y - 1);
        expect(corner.y).toBeLessThan(y + height + 1);
      }
    }
  });

  test('a corner that a hand left open holds all the same; one that stands wide open does not', () => {
    expect(found({ paper, boxes: FOUR, gap: 8 }, straight)).toHaveLength(4);
    const [only, ...more] = found({ paper, boxes: [FOUR[0]!], gap: 150 }, straight);
    expect(more).toEqual([]);
    expect(off(only!, paper)).toBeLessThan(20);
  });

  test('none drawn: the paper is the frame, however it lies and whatever is written on it', () => {
    for (const corners of [straight, aslant]) {
      const [only, ...more] = found({ paper, boxes: [], lines: [] }, corners);
      expect(more).toEqual([]);
      expect(off(only!, paper)).toBeLessThan(20);
    }
  });

  test('paper that fills the picture, as a scan does', () => {
    const sheet: Box = { x: -10, y: -10, width: 1220, height: 1620 };
    expect(found({ paper: sheet, boxes: FOUR }, straight)).toHaveLength(4);
    const [only] = found({ paper: sheet, boxes: [] }, straight);
    expect(off(only!, { x: 0, y: 0, width: TABLE.width, height: TABLE.height })).toBeLessThan(20);
  });

  test('small marks, and lines that hold nothing, are none', () => {
    const marks: Box[] = [
      { x: 300, y: 300, width: 40, height: 40 },
      { x: 500, y: 700, width: 30, height: 60 },
    ];
    const quads = found({ paper, boxes: [...marks, FOUR[3]!] }, straight);
    expect(quads).toHaveLength(1);
    expect(off(quads[0]!, FOUR[3]!)).toBeLessThan(20);
  });

  test('any picture gives something that can be cut out', () => {
    const noise = blank(300, 200);
    for (let i = 0, state = 5; i < noise.data.length; i++) noise.data[i] = (state = (Math.imul(state, 1103515245) + 12345) >>> 0) >>> 24;
    const dark: Pixels = blank(64, 900);
    for (const photo of [noise, dark, blank(1, 1), blank(20, 3)]) {
      const quads = findCuts(photo);
      expect(quads.length).toBeGreaterThan(0);
      for (const quad of quads) expect(Object.values(sizeOf(quad)).every((side) => side > 0)).toBe(true);
    }
  });
});

describe('what is cut out', () => {
  const photo = photographed(tableOf({ paper, boxes: FOUR, lines: [0.5] }), aslant, PHOTO.width, PHOTO.height);
  const [first] = findCuts(photo);
  const bright = ({ width, height, data }: Pixels, x: number, y: number) => data[(Math.floor(y * height) * width + Math.floor(x * width)) * 4]!;

  test('is straight: a line across the middle is across the middle', () => {
    const cut = cutOut(photo, first!, 140, 1);
    expect(cut.width).toBe(140);
    for (const x of [0.05, 0.3, 0.6, 0.95]) {
      const darkest = Array.from({ length: 40 }, (_, i) => 0.4 + i / 200).reduce((best, y) => (bright(cut, x, y) < bright(cut, x, best) ? y : best));
      expect(Math.abs(darkest - 0.5)).toBeLessThan(0.025);
    }
  });

  test('has white paper and dark lines where it is whitened, however the light fell', () => {
    const [as, white] = [cutOut(photo, first!, 140, 0), cutOut(photo, first!, 140, 1)];
    expect(bright(as, 0.5, 0.25)).toBeLessThan(225);
    for (const [x, y] of [
      [0.1, 0.1],
      [0.9, 0.2],
      [0.5, 0.8],
      [0.9, 0.9],
    ] as const)
      expect(bright(white, x, y)).toBeGreaterThan(248);
    const darkest = Math.min(...Array.from({ length: 40 }, (_, i) => bright(white, 0.5, 0.4 + i / 200)));
    expect(darkest).toBeLessThan(60);
  });

  test('is never made larger than the photograph has it', () => {
    expect(cutOut(photo, first!, 3000, 0).width).toBeLessThanOrEqual(Math.ceil(sizeOf(first!).width));
  });
});
