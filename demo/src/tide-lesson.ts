import { compose } from '@zany/core/testing';

/** A lesson on the tide: a timeline in labelled sections, clips that play at every entry, a path that changes its shape. */
export function tideLesson() {
  const navy = '#1f4e5f';
  const words = { size: 22, align: 'center', place: 'middle' } as const;
  const step = (label: string, x: number) => ({
    at: [x, 690, 200, 56] as const,
    type: 'box' as const,
    style: { fill: '#f0b13c', corner: 14, ink: '#26232c' },
    text: label,
    letters: { size: 20, weight: 650 },
    looks: { hover: { style: { fill: '#f7c968' }, ms: 150 } },
  });
  const low = 'M0 70C25 66 25 74 50 70C75 66 75 74 100 70L100 100L0 100Z';
  const high = 'M0 30C25 26 25 34 50 30C75 26 75 34 100 30L100 100L0 100Z';
  const piece = compose({
    id: 'tide',
    name: 'Tide lesson',
    size: [1024, 768],
    fps: 24,
    parts: {
      Gull: {
        size: [120, 60],
        background: '#fbf7ee',
        timeline: {
          length: 24,
          labels: { Rise: [0, 'go on'], Fall: [12, 'loop'] },
          tracks: [
            [
              'wing',
              'path',
              [
                [0, 'M0 50L50 20L100 50'],
                [12, 'M0 20L50 60L100 20', 'ease-in-out'],
                [23, 'M0 50L50 20L100 50'],
              ],
            ],
            [
              'wing',
              'lineWidth',
              [
                [0, 4],
                [12, 7],
              ],
            ],
          ],
        },
        layers: { wing: { at: [0, 0, 120, 60], type: 'path', path: 'M0 50L50 20L100 50', style: { line: { color: '#26232c', width: 4 } } } },
      },
    },
    frames: {
      Lesson: {
        background: '#cfe1ea',
        timeline: {
          length: 120,
          labels: { Begin: [0, 'hold'], Flood: [24, 'hold'], Ebb: [72, { goTo: 'Begin' }], Storm: [96, 'loop'] },
          tracks: [
            [
              'sea',
              'path',
              [
                [0, low],
                [24, low],
                [60, high, 'ease-in-out'],
                [72, high],
                [90, low, 'ease-in'],
              ],
            ],
            [
              'sea',
              'fill',
              [
                [0, '#4d8794'],
                [60, '#2f6675'],
                [95, '#4d8794'],
                [100, '#32233b'],
              ],
            ],
            [
              'moon',
              'x',
              [
                [0, 100],
                [24, 100],
                [71, 800, 'linear'],
                [95, 100],
              ],
            ],
            [
              'moon',
              'y',
              [
                [0, 160],
                [48, 60, 'ease-out'],
                [71, 160, 'ease-in'],
              ],
            ],
            [
              'moon',
              'opacity',
              [
                [0, 0.4],
                [48, 1],
                [95, 0.4],
              ],
            ],
            [
              'boat',
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
              'boat',
              'rotation',
              [
                [96, -6],
                [108, 6],
                [119, -6],
              ],
            ],
            [
              'boat',
              'scale',
              [
                [0, 1],
                [60, 1.2],
                [90, 1],
              ],
            ],
            [
              'title',
              'size',
              [
                [0, 30],
                [24, 36],
              ],
            ],
            [
              'title',
              'ink',
              [
                [0, '#26232c'],
                [96, '#6d3a7c'],
              ],
            ],
            [
              'boat',
              'corner',
              [
                [0, 6],
                [60, 16],
              ],
            ],
            [
              'boat',
              'width',
              [
                [0, 160],
                [60, 180],
              ],
            ],
            [
              'boat',
              'height',
              [
                [0, 50],
                [60, 56],
              ],
            ],
            [
              'frame line',
              'lineColor',
              [
                [0, '#1f4e5f'],
                [96, '#b23a26'],
              ],
            ],
          ],
          spans: [
            ['gulls', 24, 71],
            ['storm words', 96, 119],
          ],
          cues: [
            [60, 'one', 'pause'],
            [62, 'one', 'play'],
            [66, 'two', 'start over'],
          ],
        },
        layers: {
          sea: { at: [0, 0, 1024, 768], type: 'path', path: low, style: { fill: '#4d8794' } },
          moon: { at: [100, 160, 90, 90], type: 'oval', style: { fill: '#fbf7ee' } },
          boat: {
            at: [430, 480, 160, 50],
            type: 'box',
            style: { fill: '#b23a26', corner: 6 },
            lines: ['hover → tween opacity of boat to 0.7 · 200 ms ease', 'leave → tween opacity of boat to 1 · 200 ms ease'],
          },
          gulls: { type: 'group', at: [200, 120, 500, 200] },
          one: { in: 'gulls', part: 'Gull', at: [0, 0, 120, 60] },
          two: { in: 'gulls', part: 'Gull', at: [300, 60, 160, 80], reentry: 'go on' },
          three: { part: 'Gull', at: [840, 80, 80, 40], reentry: 'once' },
          'frame line': { at: [40, 640, 944, 4], type: 'line', path: 'M0 50L100 50', style: { line: { color: navy, width: 3 } } },
          title: {
            at: [40, 24, 944, 60],
            type: 'text',
            text: 'The tide: {if Lesson.section = "" then "begin" else Lesson.section}',
            letters: { family: 'Bricolage Grotesque', size: 30, weight: 700 },
          },
          'storm words': { at: [300, 330, 424, 60], type: 'text', text: 'In a storm no boat leaves.', style: { ink: '#fbf7ee' }, letters: words },
          Flood: { ...step('Flood', 56), lines: ['click → play from Flood; send flooded'] },
          Ebb: { ...step('Ebb', 276), lines: ['click → play from Ebb'] },
          Storm: { ...step('Storm', 496), lines: ['click → show label Storm; play on'] },
          Stop: { ...step('Stop', 716), lines: ['click → pause; pause gulls'] },
          Over: {
            at: [936, 690, 64, 56],
            type: 'box',
            style: { fill: '#fbf7ee', corner: 14, ink: '#26232c' },
            text: '↺',
            letters: { size: 24 },
            label: 'From the beginning',
            looks: { hover: { style: { fill: '#f1eadc' } }, press: { style: { fill: '#ddd2bd' } } },
            lines: ['click → start over; start over three; show in two label Fall'],
          },
        },
        lines: [
          'label Flood → send flood',
          'key ArrowRight → play on',
          'key ArrowLeft → play previous section',
          'after 20 s → go to Quiz · uncover up 400 ms ease-in-out',
        ],
      },
      Quiz: {
        background: '#fbf7ee',
        states: {
          Asked: {},
          Right: { answer: { text: 'Yes: the moon pulls the sea.' }, ground: { style: { fill: '#deeee8' } } },
          Wrong: { answer: { text: 'No. Look at the moon once more.' }, ground: { style: { fill: '#fbe2dc' } } },
        },
        layers: {
          ground: { at: [80, 200, 864, 300], type: 'box', style: { fill: '#ffffff', corner: 24 } },
          question: {
            at: [120, 240, 784, 80],
            type: 'text',
            text: 'What makes the tide?',
            letters: { family: 'Bricolage Grotesque', size: 40, weight: 700, align: 'center' },
          },
          answer: { at: [120, 400, 784, 60], type: 'text', text: '', letters: words },
          moon: {
            ...step('The moon', 236),
            when: { selected: 'Quiz.state = "Right"' },
            lines: ['click → put this in Right · tween 300 ms ease; with disable wind'],
          },
          wind: { ...step('The wind', 456), lines: ['click → put this in Wrong · tween 300 ms ease stagger 60 ms by order'] },
          next: { ...step('Turn it over', 676), lines: ['click → next state around · tween 300 ms ease after 50 ms stagger 40 ms by distance'] },
        },
        lines: [
          'state Right → wait 1 s; lasting wait 500 ms; with send well done; go to Lesson · push down 400 ms ease-out',
          'leave state Wrong → send thought again',
          'key Escape → go to previous · cover right 300 ms ease',
        ],
      },
    },
  });
  return { piece, assets: new Map<string, Uint8Array>() };
}
