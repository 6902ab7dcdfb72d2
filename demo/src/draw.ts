import { mkdir, writeFile } from 'node:fs/promises';
import { audit, compile, writePackage } from '@zany/core';
import { banner } from './banner.ts';
import { crossingChart } from './crossing-chart.ts';
import { ticketApp } from './ticket-app.ts';

/** Draws the demo pieces and writes them as packages into `demo/pieces`. The first one is the first in the Workroom. */
const folder = new URL('../pieces/', import.meta.url);
await mkdir(folder, { recursive: true });
for (const [file, make] of [
  ['1-ticket-app', await ticketApp()],
  ['2-crossing-chart', await crossingChart()],
  ['3-summer-banner', await banner()],
] as const) {
  const piece = make.finish();
  await writeFile(new URL(`${file}.zip`, folder), writePackage(piece, make.assets));
  console.log(`${file}: ${piece.scenes.size} frames, ${piece.threads.size} threads`);
  for (const finding of audit(compile(piece)).findings) console.log(`  ${finding.severity} ${finding.rule}: ${finding.title}. ${finding.sentence}`);
}
