import { mkdir, writeFile } from 'node:fs/promises';
import { audit, compile, writePackage, type Piece } from '@zany/core';
import { banner } from './banner.ts';
import { crossingChart } from './crossing-chart.ts';
import { dayTrip } from './day-trip.ts';
import { harbourClock } from './harbour-clock.ts';
import { lampBanner } from './lamp-banner.ts';
import { pierKiosk } from './pier-kiosk.ts';
import { ticketApp } from './ticket-app.ts';
import { tideLesson } from './tide-lesson.ts';

/** Draws the demo pieces and writes them as packages into `demo/pieces`. The first one is the first in the Workroom. */
const folder = new URL('../pieces/', import.meta.url);
await mkdir(folder, { recursive: true });
const finished = async (maker: Promise<{ finish(): Piece; assets: Map<string, Uint8Array> }>) => {
  const made = await maker;
  return { piece: made.finish(), assets: made.assets };
};
for (const [file, made] of [
  ['1-ticket-app', await finished(ticketApp())],
  ['2-crossing-chart', await finished(crossingChart())],
  ['3-summer-banner', await finished(banner())],
  ['4-day-trip', await dayTrip()],
  ['5-pier-kiosk', await pierKiosk()],
  ['6-tide-lesson', tideLesson()],
  ['7-lamplight-banner', await lampBanner()],
  ['8-harbour-clock', harbourClock()],
] as const) {
  await writeFile(new URL(`${file}.zip`, folder), writePackage(made.piece, made.assets));
  console.log(`${file}: ${made.piece.scenes.size} scenes, ${made.piece.threads.size} threads`);
  const { findings, exploration } = audit(compile(made.piece), { maxStates: 200 });
  console.log(`  ${exploration.states.length} states, ${exploration.cut ?? 'complete'}`);
  for (const finding of findings) console.log(`  ${finding.severity} ${finding.rule}: ${finding.title}. ${finding.sentence}`);
}
