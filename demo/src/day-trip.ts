import { compose, type SceneSpec } from '@zany/core/testing';
import { Files } from './assets.ts';
import { crossing, pier } from './pictures.ts';

/** A day trip planned on a phone: tabs, a counter, a form, a dialog, a slide-over menu, a list that scrolls, a card to swipe and one to drop. */

const navy = '#1f4e5f';
const gold = '#f0b13c';
const pale = '#f7e6c3';
const title = { family: 'Bricolage Grotesque', size: 22, weight: 700, place: 'middle' } as const;
const button = { style: { fill: gold, corner: 14, ink: '#26232c' }, letters: { size: 17, weight: 650 }, type: 'box' } as const;
const lit = {
  hover: { style: { fill: '#f7c968' } },
  press: { style: { fill: '#d68f0d' }, ms: 60 },
  focus: { style: { line: { color: '#0b7a75', width: 3 } } },
  disabled: { style: { fill: '#e5dcc9', ink: '#6f6776' }, ms: 200 },
} as const;

export async function dayTrip() {
  const files = new Files();
  const sea = files.add('crossing.jpg', 'image/jpeg', await crossing(), 780, 360);
  const evening = files.add('pier.jpg', 'image/jpeg', await pier(), 780, 360);

  const quiet = { hover: { style: { fill: '#f1eadc' } } } as const;
  const lighter = { style: { fill: gold } } as const;

  const stepper: SceneSpec = {
    size: [200, 56],
    background: '#fbf7ee',
    states: { Some: {}, Full: { count: { style: { ink: '#b23a26' } }, more: { style: { fill: '#e6dcc6' } } } },
    layers: {
      less: {
        at: [0, 4, 48, 48],
        ...button,
        text: '−',
        looks: lit,
        label: 'One seat less',
        when: { enabled: 'Seats > 1' },
        lines: ['click → set Seats to Seats - 1'],
      },
      count: { at: [60, 4, 80, 48], type: 'text', text: '{Seats}', letters: { size: 24, weight: 700, align: 'center', place: 'middle' } },
      more: {
        at: [152, 4, 48, 48],
        ...button,
        text: '+',
        looks: lit,
        label: 'One seat more',
        lines: ['click → if Seats < Seats left → set Seats to Seats + 1; otherwise → send full'],
      },
    },
    lines: ['variable Seats → if Seats = Seats left → put this in Full; otherwise → put this in Some'],
  };

  const notice: SceneSpec = {
    size: [342, 64],
    background: '#fbf7ee',
    states: {
      Hidden: { card: { pose: { y: -80 }, style: { opacity: 0 } } },
      'Sold out': { words: { text: 'That was the last seat.' } },
      Saved: { card: { style: { fill: '#deeee8' } }, words: { text: 'Your trip is saved.' } },
    },
    layers: {
      card: { at: [0, 0, 342, 64], type: 'box', style: { fill: '#fbe2dc', corner: 12 } },
      words: { at: [16, 12, 310, 40], type: 'text', text: '', letters: { size: 16, place: 'middle' } },
    },
    lines: ['after 2 s in Sold out → put this in Hidden · tween 300 ms ease-in', 'after 2 s in Saved → put this in Hidden · tween 300 ms ease-in'],
  };

  const bar: SceneSpec = {
    background: '#fbf7ee',
    states: {
      Shut: {},
      Open: {
        'menu shade': { hidden: false },
        menu: { pose: { x: 0 } },
        'bar one': { pose: { y: 58, rotation: 45 } },
        'bar three': { pose: { y: 58, rotation: -45 } },
        'bar two': { style: { opacity: 0 } },
      },
    },
    layers: {
      ground: { at: [0, 0, 390, 96], type: 'box', style: { fill: navy }, hit: { how: 'block' } },
      title: { at: [76, 44, 250, 36], type: 'text', text: '{frame.name}', style: { ink: '#ffffff' }, letters: title },
      'menu shade': {
        at: [0, 96, 390, 748],
        type: 'box',
        style: { fill: '#26232c66' },
        hidden: true,
        lines: ['click → put this in Shut · tween 300 ms ease-in-out'],
      },
      menu: { at: [-260, 96, 260, 748], type: 'group', clip: true },
      'menu ground': { in: 'menu', at: [0, 0, 260, 748], type: 'box', style: { fill: '#fbf7ee' }, hit: { how: 'block' } },
      'to plan': {
        in: 'menu',
        at: [0, 20, 260, 56],
        type: 'text',
        text: 'Plan',
        letters: { size: 18, align: 'center', place: 'middle' },
        looks: quiet,
        lines: ['click → put this in Shut; go to Plan · tween 400 ms overshoot(0.08)'],
      },
      'to boats': {
        in: 'menu',
        at: [0, 84, 260, 56],
        type: 'text',
        text: 'Boats',
        letters: { size: 18, align: 'center', place: 'middle' },
        looks: quiet,
        lines: ['click → put this in Shut; go to Boats · cover left 300 ms ease-out'],
      },
      'to cards': {
        in: 'menu',
        at: [0, 148, 260, 56],
        type: 'text',
        text: 'Cards',
        letters: { size: 18, align: 'center', place: 'middle' },
        looks: quiet,
        lines: ['click → put this in Shut; go to Cards · wipe down 350 ms ease-in-out'],
      },
      icon: {
        at: [16, 38, 48, 48],
        type: 'group',
        label: 'Menu',
        looks: { hover: { inside: { 'bar one': lighter, 'bar two': lighter, 'bar three': lighter } } },
        lines: ['click → toggle this with Open · tween 500 ms spring(0.25)'],
      },
      'bar one': { in: 'icon', at: [10, 12, 28, 4], type: 'box', style: { fill: '#ffffff', corner: 2 }, pose: { y: 12 } },
      'bar two': { in: 'icon', at: [10, 22, 28, 4], type: 'box', style: { fill: '#ffffff', corner: 2 } },
      'bar three': { in: 'icon', at: [10, 32, 28, 4], type: 'box', style: { fill: '#ffffff', corner: 2 } },
      'icon ground': { in: 'icon', at: [0, 0, 48, 48], type: 'hit', hit: { how: 'own' } },
    },
    lines: ['key m → toggle this with Open · tween 300 ms ease-in-out'],
  };

  const tab = (day: string, x: number) => ({
    at: [x, 112, 114, 48] as const,
    type: 'text' as const,
    text: day,
    choice: 'days',
    choiceValue: day,
    letters: { size: 16, align: 'center', place: 'middle' } as const,
    style: { corner: 10 },
    looks: {
      selected: { style: { fill: pale }, letters: { weight: 700 } },
      hover: { style: { fill: '#f1eadc' } },
      selectedHover: { style: { fill: gold } },
    },
    lines: [`click → select ${day}`],
  });

  const rows = [
    'Harbour to Skarra',
    'Harbour to Tolm',
    'Harbour to Inne',
    'Skarra to Tolm',
    'Tolm to Inne',
    'The evening round',
    'The lighthouse tour',
    'With bicycles',
    'With geese (no)',
    'The mail boat',
    'The last boat',
  ];

  const piece = compose({
    id: 'daytrip',
    name: 'Day trip',
    assets: files.list,
    variables: {
      Seats: { type: 'number', initial: 1, min: 0, max: 9 },
      'Seats left': { type: 'number', initial: 4, min: 0, max: 40 },
      Day: { type: 'choice', initial: 'Friday', options: ['Friday', 'Saturday', 'Sunday'] },
      Name: { type: 'text', initial: '' },
      Agreed: { type: 'yes/no', initial: false },
      Turns: { type: 'number', initial: 0, min: -3, max: 3 },
    },
    parts: { Stepper: stepper, Notice: notice },
    sheets: { 'Top bar': bar },
    frames: {
      Plan: {
        background: '#fbf7ee',
        over: ['Top bar'],
        onReturn: 'remember',
        choices: { days: 'Day' },
        layers: {
          Friday: { ...tab('Friday', 24), selected: true },
          Saturday: tab('Saturday', 138),
          Sunday: tab('Sunday', 252),
          sea: { at: [24, 172, 342, 130], type: 'picture', asset: sea, fit: 'cover', style: { corner: 12 } },
          Hello: {
            at: [24, 312, 342, 28],
            type: 'text',
            text: '{if Name = "" then "Where to" else "Where to, " + Name}?',
            letters: { size: 18, weight: 650 },
          },
          'Your name': {
            at: [24, 348, 342, 48],
            type: 'field',
            field: { kind: 'text', placeholder: 'Your name', variable: 'Name' },
            style: { fill: '#ffffff', line: { color: '#ddd2bd', width: 1 }, corner: 10 },
            lines: ['change → send named', 'focus → tween opacity of sea to 0.6 · 200 ms ease', 'blur → tween opacity of sea to 1 · 200 ms ease'],
          },
          counter: { part: 'Stepper', at: [24, 412, 200, 56] },
          'Seats text': { at: [236, 412, 130, 56], type: 'text', text: '{Seats left - Seats} left', letters: { size: 15, place: 'middle' } },
          Terms: {
            at: [24, 484, 44, 44],
            type: 'field',
            field: { kind: 'checkbox', variable: 'Agreed' },
            label: 'I agree to the terms',
            lines: ['selected → send agreed', 'unselected → send taken back'],
          },
          'Terms text': {
            at: [76, 484, 290, 44],
            type: 'text',
            text: 'I agree to the terms',
            letters: { size: 16, place: 'middle' },
            looks: { hover: { style: { ink: '#8f5c00' } } },
            lines: ['click → select or unselect Terms'],
          },
          'Sold note': { part: 'Notice', at: [24, 96, 342, 64], state: 'Hidden', when: { shown: 'Seats left > 0' }, hit: { how: 'none' } },
          Book: {
            at: [24, 544, 342, 60],
            ...button,
            text: 'Book for {Day}',
            looks: lit,
            when: { enabled: 'Terms.selected and string length(Name) >= 2' },
            lines: [
              'click → lay closing over Sure at bottom scrim 45 % · cover up 300 ms ease-out',
              'enabled → tween scale of Book to 1.03 · 120 ms ease; tween scale of Book to 1 · 200 ms ease',
              'disabled → send not yet',
            ],
          },
          Sunday_off: {
            at: [24, 616, 342, 40],
            type: 'text',
            text: 'No boats on Sundays in winter.',
            style: { ink: '#b23a26' },
            letters: { size: 15 },
            when: { shown: 'Day = "Sunday"' },
          },
          Help: {
            at: [338, 784, 44, 44],
            type: 'oval',
            style: { fill: navy, ink: '#ffffff' },
            text: '?',
            letters: { size: 20, weight: 700 },
            label: 'Help',
            lines: [
              'long press 600 ms → send help long',
              'double click → send help twice',
              'press → tween scale of Help to 0.9 · 80 ms ease',
              'release → tween scale of Help to 1 · 160 ms ease',
            ],
          },
        },
        lines: ['signal full → put Sold note in Sold out · tween 300 ms overshoot(0.1)', 'swipe left → go to Boats · push left 300 ms ease-out'],
      },
      Sure: {
        size: [390, 260],
        background: '#fbf7ee',
        layers: {
          Question: { at: [24, 24, 342, 60], type: 'text', text: '{string(Seats) + " seats on " + Day + "?"}', letters: title },
          Yes: {
            at: [24, 100, 342, 60],
            ...button,
            text: 'Yes, take us along',
            looks: lit,
            lines: ['click → set Seats left to Seats left - Seats; go replacing to Aboard · dissolve 300 ms ease'],
          },
          No: {
            at: [24, 172, 342, 56],
            type: 'text',
            text: 'Not yet',
            letters: { size: 17, align: 'center', place: 'middle' },
            looks: quiet,
            lines: ['click → lift · uncover down 250 ms ease-in', 'key Escape → lift · uncover down 250 ms ease-in'],
          },
        },
      },
      Boats: {
        background: '#fbf7ee',
        over: ['Top bar'],
        contentHeight: 1180,
        layers: {
          ...Object.fromEntries(
            rows.map((row, i) => [
              row,
              {
                at: [24, 172 + i * 84, 342, 72] as const,
                type: 'box' as const,
                style: { fill: i % 2 ? pale : '#ffffff', corner: 12 },
                text: row,
                letters: { size: 17 },
              },
            ])
          ),
          'Last boat': {
            at: [24, 1112, 342, 44],
            type: 'text',
            text: 'This is the last boat of the day.',
            letters: { size: 15, align: 'center', place: 'middle' },
            lines: ['in view → send seen the last boat'],
          },
          filter: {
            at: [0, 96, 390, 64],
            type: 'box',
            style: { fill: '#f1eadc' },
            text: 'All boats of {Day}',
            letters: { size: 16 },
            pin: ['top'],
            lines: ['scroll down 30 → hide filter · dissolve 200 ms ease', 'scroll up 30 → show filter · dissolve 200 ms ease'],
          },
          up: {
            at: [326, 772, 48, 48],
            type: 'oval',
            style: { fill: navy, ink: '#ffffff' },
            text: '↑',
            letters: { size: 20 },
            label: 'To the top',
            looks: { hover: { style: { fill: '#2b6678' } } },
            pin: ['bottom'],
            lines: ['click → scroll to top · 400 ms ease-in-out'],
          },
          down: {
            at: [262, 772, 48, 48],
            type: 'oval',
            style: { fill: navy, ink: '#ffffff' },
            text: '↓',
            letters: { size: 20 },
            label: 'To the last boat',
            looks: { hover: { style: { fill: '#2b6678' } } },
            pin: ['bottom'],
            lines: ['click → scroll to Last boat · 600 ms ease-in-out'],
          },
        },
        lines: ['swipe right → go to back · push right 300 ms ease-out'],
      },
      Cards: {
        background: '#fbf7ee',
        over: ['Top bar'],
        layers: {
          keep: {
            at: [24, 660, 160, 120],
            type: 'box',
            style: { fill: '#deeee8', corner: 16 },
            text: 'Keep',
            letters: { size: 20 },
            looks: { hover: { style: { fill: '#c8e2d6' } } },
          },
          drop: { at: [206, 660, 160, 120], type: 'box', style: { fill: '#fbe2dc', corner: 16 }, text: 'Leave', letters: { size: 20 } },
          card: {
            at: [75, 200, 240, 320],
            type: 'picture',
            asset: evening,
            fit: 'cover',
            style: { corner: 18, shadow: { x: 0, y: 8, blur: 24, color: '#00000040' } },
            label: 'The pier at dusk',
            drag: { axis: 'both', bounds: { left: -120, right: 120, top: -60, bottom: 480 } },
            lines: [
              'drag start → tween scale of card to 0.6 · 120 ms ease',
              'drag → send dragging',
              'drop on keep → tween opacity of card to 0 · 200 ms ease; wait 100 ms; hide card; put Saved note in Saved',
              'drop on drop → hide card · dissolve 200 ms ease',
              'drop → tween scale of card to 1 · 200 ms overshoot(0.2); with move card to 75, 200 · 300 ms spring(0.35)',
            ],
          },
          'Saved note': { part: 'Notice', at: [24, 110, 342, 64], state: 'Hidden', hit: { how: 'none' } },
          wheel: {
            at: [155, 540, 80, 80],
            type: 'path',
            path: 'M50 0L62 38L100 50L62 62L50 100L38 62L0 50L38 38Z',
            style: { fill: gold },
            when: {
              rotation: 'Turns * 30',
              scale: 'if Turns < 0 then 0.8 else 1',
              opacity: 'if Turns = 3 then 0.5 else 1',
              x: '155 + Turns * 4',
              y: '540 - abs(Turns)',
              width: '80 + Turns',
              height: '80 + Turns',
            },
            hit: { how: 'none' },
          },
          left: {
            at: [75, 556, 56, 48],
            ...button,
            text: '↺',
            looks: lit,
            label: 'Turn left',
            lines: ['click → set Turns to Turns - 1', 'leave → send left it', 'hover → send over it'],
          },
          right: { at: [259, 556, 56, 48], ...button, text: '↻', looks: lit, label: 'Turn right', lines: ['click → set Turns to Turns + 1'] },
        },
      },
      Aboard: {
        background: '#e3f0ea',
        stateIs: 'if Seats left = 0 then "Full" else "Room"',
        states: { Room: {}, Full: { words: { text: 'You have the last seats.' } } },
        layers: {
          words: { at: [24, 120, 342, 60], type: 'text', text: 'See you on {Day}.', letters: title },
          Write: {
            at: [24, 220, 342, 60],
            ...button,
            text: 'Write to the pier',
            looks: lit,
            lines: ['click → open mailto:pier@kittiwake.example as "aboard"'],
          },
          Again: {
            at: [24, 296, 342, 60],
            ...button,
            text: 'Plan another',
            looks: lit,
            lines: ['click → set Name to ""; go to start · dissolve 250 ms ease'],
          },
          Notice: { part: 'Notice', at: [24, 380, 342, 64], when: { state: 'if Seats left < 3 then "Sold out" else "Saved"' }, hit: { how: 'none' } },
        },
        lines: ['after 4 s → send aboard', 'leave any state → send other room', 'any state → send room'],
      },
    },
    lines: ['key Home → go to start'],
  });
  return { piece, assets: files.bytes };
}
