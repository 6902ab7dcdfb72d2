import type { Look } from '@zany/core';
import { Maker } from './maker.ts';
import { crossing, pier } from './pictures.ts';

const navy = '#1f4e5f';
const gold = '#f0b13c';
const pale = '#f7e6c3';
const lit: Look = { style: { fill: '#f7c968', shadow: { x: 0, y: 4, blur: 12, color: '#00000030' } } };
const held: Look = { style: { fill: '#d68f0d' } };
const button = { fill: gold, corner: 14, ink: '#26232c' };
const strong = { size: 17, weight: 650 };

/** The phone's ticket app. It has a few loose ends on purpose, so that the walk has something to show. */
export async function ticketApp(): Promise<Maker> {
  const make = new Maker('ticketapp', 'Ticket app', 390, 844);
  const sea = make.picture('crossing.jpg', 'image/jpeg', await crossing(), 780, 360);
  const evening = make.picture('pier.jpg', 'image/jpeg', await pier(), 780, 360);

  const top = (title: string, back = true) => {
    make.layer('box', 'Top bar', [0, 0, 390, 96], { style: { fill: navy }, locked: true });
    if (back)
      make.layer('text', 'Back', [8, 44, 44, 44], {
        text: '‹',
        style: { ink: '#ffffff' },
        letters: { size: 30, align: 'center', place: 'middle' },
        looks: { hover: { style: { ink: gold } }, press: { style: { ink: '#d68f0d' } } },
        threads: 'click → go to back · push right 250 ms ease-out',
      });
    make.layer('text', 'Title', [back ? 56 : 24, 50, 250, 34], {
      text: title,
      style: { ink: '#ffffff' },
      letters: { family: 'Bricolage Grotesque', size: 22, weight: 700, place: 'middle' },
    });
  };
  const tabs = (current: string) => {
    make.layer('box', 'Tab bar', [0, 764, 390, 80], { style: { fill: '#fffdf8', line: { color: '#e6dcc6', width: 1 } }, locked: true });
    ['Harbour', 'Timetable', 'My tickets'].forEach((name, i) =>
      make.layer('text', name, [i * 130, 772, 130, 56], {
        text: name,
        style: { ink: name === current ? '#855500' : '#67606e' },
        letters: { size: 14, weight: name === current ? 700 : 400, align: 'center', place: 'middle' },
        ...(name !== current && { looks: { hover: { style: { ink: '#26232c' } } }, threads: `click → go to ${name} · dissolve 150 ms ease` }),
      })
    );
  };

  make.page('Harbour');
  top('Kittiwake Line', false);
  make.layer('picture', 'Sea', [0, 96, 390, 190], { asset: sea, fit: 'cover' });
  make.layer('text', 'Hello', [24, 312, 342, 60], {
    text: 'Where does the tide take you today?',
    letters: { family: 'Bricolage Grotesque', size: 24, weight: 700, leading: 1.2 },
  });
  make.layer('box', 'Plan a trip', [24, 400, 342, 60], {
    style: button,
    text: 'Plan a trip',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → go to Sailings · push left 300 ms ease-out',
  });
  make.layer('box', 'See the timetable', [24, 476, 342, 60], {
    style: { fill: pale, corner: 14 },
    text: 'See the timetable',
    letters: { size: 17 },
    looks: { hover: { style: { fill: '#fdf2da' } } },
    threads: 'click → go to Timetable · push up 300 ms ease-out',
  });
  make.layer('text', 'Notice', [24, 566, 342, 60], {
    text: 'Wind from the west, all boats on time.',
    style: { ink: '#0b7a75' },
    letters: { size: 15 },
  });
  make.layer('hit', 'Help', [334, 52, 32, 30], { threads: 'click → go to Help · dissolve 200 ms ease' });
  make.layer('text', 'Help sign', [334, 52, 32, 30], {
    text: '?',
    style: { ink: '#ffffff' },
    letters: { size: 20, weight: 700, align: 'center', place: 'middle' },
  });
  tabs('Harbour');

  make.page('Sailings');
  top('Sailings');
  make.layer('text', 'Day', [24, 112, 342, 30], { text: 'Friday, Harbour to Skarra', letters: { size: 16, weight: 650, place: 'middle' } });
  make.layer('picture', 'Boat', [24, 154, 342, 150], { asset: sea, fit: 'cover', style: { corner: 12 } });
  const choose = (time: string, seats: string, y: number, to: string, more = {}) =>
    make.layer('box', `Choose ${time}`, [24, y, 342, 66], {
      style: { fill: gold, corner: 12 },
      text: `${time} to Skarra · ${seats}`,
      letters: { size: 17, weight: 600 },
      looks: { hover: lit, press: held },
      threads: `click → go to ${to} · push left 300 ms ease-out`,
      ...more,
    });
  const first = choose('10:40', '12 seats', 326, 'Seats');
  choose('12:15', '14 seats', 404, 'Seats', { copyOf: first });
  choose('15:30', '31 seats', 482, 'Pay', { copyOf: first });
  make.layer('box', 'Choose 18:05', [24, 560, 342, 66], {
    style: { fill: gold, corner: 12 },
    text: '18:05 to Skarra · 6 seats',
    letters: { size: 17, weight: 600 },
    looks: { hover: lit, press: held },
    copyOf: first,
  });
  tabs('');

  make.page('Seats');
  top('Seats');
  for (let row = 0; row < 5; row++)
    for (let seat = 0; seat < 4; seat++)
      make.layer('box', `Seat ${row * 4 + seat + 1}`, [48 + seat * 78, 130 + row * 78, 60, 60], {
        style: { fill: (row + seat) % 3 === 0 ? '#d9ccb2' : '#9fc8b4', corner: 10 },
        text: `${row * 4 + seat + 1}`,
        letters: { size: 15 },
      });
  make.layer('text', 'Legend', [48, 540, 300, 40], {
    text: 'Green seats are free. Any of them is yours.',
    style: { ink: '#67606e' },
    letters: { size: 14 },
  });
  make.layer('box', 'Continue', [24, 640, 342, 60], {
    style: button,
    text: 'Continue',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → go to Pay · push left 300 ms ease-out',
  });

  make.page('Pay');
  top('Pay');
  make.layer('text', 'Sum', [24, 120, 342, 40], {
    text: '2 seats, 10:40 to Skarra',
    letters: { family: 'Bricolage Grotesque', size: 22, weight: 700 },
  });
  make.layer('box', 'Card', [24, 186, 342, 62], {
    style: { fill: '#ffffff', line: { color: '#ddd2bd', width: 1 }, corner: 10 },
    text: 'Card ending 2207',
    letters: { size: 16 },
  });
  make.layer('text', 'Price', [24, 272, 342, 34], {
    text: '18.40 in all, the lighthouse tour included',
    style: { ink: '#67606e' },
    letters: { size: 15 },
  });
  make.layer('box', 'Pay now', [24, 560, 342, 60], {
    style: button,
    text: 'Pay now',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → go to Aboard · push left 300 ms ease-out',
  });
  make.layer('box', 'Pay with another card', [24, 636, 342, 60], {
    style: { fill: pale, corner: 14 },
    text: 'Pay with another card',
    letters: { size: 17 },
    looks: { hover: { style: { fill: '#fdf2da' } } },
    threads: 'click → go to Declined · push left 300 ms ease-out',
  });

  make.page('Aboard', { background: '#e3f0ea' });
  make.layer('picture', 'Pier', [0, 0, 390, 260], { asset: evening, fit: 'cover' });
  make.layer('text', 'Welcome', [24, 290, 342, 90], {
    text: 'Welcome aboard. Your boat leaves at 10:40.',
    letters: { family: 'Bricolage Grotesque', size: 26, weight: 700, leading: 1.2 },
  });
  make.layer('box', 'Ticket', [24, 400, 342, 150], {
    style: { fill: '#ffffff', corner: 16, shadow: { x: 0, y: 6, blur: 18, color: '#00000022' } },
    text: 'Harbour → Skarra\nSeats 14 and 15\nPier 2',
    letters: { size: 18, leading: 1.5 },
  });
  make.layer('box', 'Done', [24, 600, 342, 60], {
    style: button,
    text: 'Done',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → go to start · dissolve 250 ms ease',
  });

  make.page('Declined', { background: '#fbe9e4' });
  make.layer('text', 'Sorry', [24, 260, 342, 120], {
    text: 'The card was not accepted. Nothing has been paid.',
    letters: { family: 'Bricolage Grotesque', size: 26, weight: 700, leading: 1.2 },
  });
  make.layer('text', 'Advice', [24, 400, 342, 60], {
    text: 'Please ask at the counter on pier 2.',
    style: { ink: '#67606e' },
    letters: { size: 17 },
  });

  make.page('Timetable');
  top('Timetable');
  [
    ['Skarra', '10:40  12:15  15:30  18:05'],
    ['Tolm', '09:20  13:00  17:45'],
    ['Inne', '08:10  16:20'],
  ].forEach(([name, times], i) => {
    make.layer('text', `${name}`, [24, 130 + i * 110, 342, 34], { text: name!, letters: { family: 'Bricolage Grotesque', size: 20, weight: 700 } });
    make.layer('text', `Times to ${name}`, [24, 166 + i * 110, 342, 40], { text: times!, style: { ink: '#67606e' }, letters: { size: 18 } });
  });
  make.layer('box', 'All sailings', [24, 520, 342, 60], {
    style: button,
    text: 'Choose a sailing',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → go to Sailings · push left 300 ms ease-out',
  });
  make.layer('box', 'Harbour office', [24, 596, 342, 60], {
    style: { fill: pale, corner: 14 },
    text: 'Write to the harbour office',
    letters: { size: 17 },
    looks: { hover: { style: { fill: '#fdf2da' } } },
    threads: 'click → open mailto:pier@kittiwake.example',
  });
  tabs('Timetable');

  make.page('My tickets');
  top('My tickets', false);
  make.layer('box', 'Ticket to Skarra', [24, 126, 342, 110], {
    style: { fill: '#ffffff', corner: 16, shadow: { x: 0, y: 4, blur: 14, color: '#00000020' } },
    text: 'Friday 10:40\nHarbour → Skarra',
    letters: { size: 18, leading: 1.5 },
    looks: { hover: { style: { fill: '#fffaf0' } } },
    threads: 'click → go to Aboard · push left 300 ms ease-out',
  });
  make.layer('text', 'Older', [24, 262, 342, 40], { text: 'No older tickets.', style: { ink: '#67606e' }, letters: { size: 16 } });
  tabs('My tickets');

  make.page('Help');
  top('Help');
  make.layer('text', 'Help text', [24, 124, 342, 130], {
    text: 'Be at the pier ten minutes before your boat leaves. Bicycles travel free, geese do not.',
    letters: { size: 18, leading: 1.5 },
  });
  make.layer('box', 'Ask us', [24, 300, 342, 60], {
    style: button,
    text: 'Read more',
    letters: strong,
    looks: { hover: lit, press: held },
    threads: 'click → open www.kittiwake.example/help in new tab',
  });

  make.page('Lost property', { draft: true });

  make.walk(
    'Two seats to Skarra',
    ['Harbour', 'Plan a trip'],
    ['Sailings', 'Choose 10:40'],
    ['Seats', 'Continue'],
    ['Pay', 'Pay now'],
    ['Aboard', 'Done']
  );
  make.walk('A card that is not taken', ['Harbour', 'Plan a trip'], ['Sailings', 'Choose 15:30'], ['Pay', 'Pay with another card']);
  return make;
}
