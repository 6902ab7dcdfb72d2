import { mkdir, writeFile } from 'node:fs/promises';
import { audit, compile, writePackage, type Piece } from '@zany/core';
import { banner } from './banner.ts';
import { crossingChart } from './crossing-chart.ts';
import { dayTrip } from './day-trip.ts';
import { firstCrossing } from './first-crossing.ts';
import { harbourClock } from './harbour-clock.ts';
import { lampBanner } from './lamp-banner.ts';
import { pierKiosk } from './pier-kiosk.ts';
import { ticketApp } from './ticket-app.ts';
import { tideLesson } from './tide-lesson.ts';

/**
 * Draws the demo pieces and writes them as packages into `demo/pieces`, the first one the first in the Workroom; what is there to learn by
 * goes into `demo/lessons`.
 */
const folder = new URL('../', import.meta.url);
for (const name of ['pieces', 'lessons']) await mkdir(new URL(name, folder), { recursive: true });
const finished = async (maker: Promise<{ finish(): Piece; assets: Map<string, Uint8Array> }>) => {
  const made = await maker;
  return { piece: made.finish(), assets: made.assets };
};
for (const [file, made] of [
  ['pieces/1-ticket-app', await finished(ticketApp())],
  ['pieces/2-crossing-chart', await finished(crossingChart())],
  ['pieces/3-summer-banner', await finished(banner())],
  ['pieces/4-day-trip', await dayTrip()],
  ['pieces/5-pier-kiosk', await pierKiosk()],
  ['pieces/6-tide-lesson', tideLesson()],
  ['pieces/7-lamplight-banner', await lampBanner()],
  ['pieces/8-harbour-clock', harbourClock()],
  ['lessons/first-crossing', { piece: firstCrossing(), assets: new Map<string, Uint8Array>() }],
] as const) {
  await writeFile(new URL(`${file}.zip`, folder), writePackage(made.piece, made.assets));
  console.log(`${file}: ${made.piece.scenes.size} scenes, ${made.piece.threads.size} threads`);
  const { findings, exploration } = audit(compile(made.piece), { maxStates: 200 });
  console.log(`  ${exploration.states.length} states, ${exploration.cut ?? 'complete'}`);
  for (const finding of findings) console.log(`  ${finding.severity} ${finding.rule}: ${finding.title}. ${finding.sentence}`);
}
