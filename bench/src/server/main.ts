import { kills } from './kills.ts';
import { load, type Load } from './load.ts';
import { floods } from './floods.ts';
import { log20k } from './long-log.ts';

/** `npm run bench server [load|kills|floods|log]`: what a server stands, against the one whose address is in ZANY_URL. */
const base = process.env['ZANY_URL'] ?? 'http://localhost:5180';
const which = process.argv[2];
const tell = (what: string, figure: string, budget = '') => console.log(`  ${what.padEnd(62)} ${figure.padEnd(48)} ${budget}`);

const loads: [string, Load][] = [
  ['50 editors on one piece, 4 edits a second each', { editors: 50, pieces: 1, rate: 4, seconds: 12, followers: true }],
  ['50 editors on ten pieces, 4 edits a second each', { editors: 50, pieces: 10, rate: 4, seconds: 12, followers: true }],
  ['50 editors on one piece, nobody follows', { editors: 50, pieces: 1, rate: 4, seconds: 8, followers: false }],
  ['50 editors on ten pieces, 20 edits a second each', { editors: 50, pieces: 10, rate: 20, seconds: 8, followers: false }],
];

if (which === undefined || which === 'load')
  for (const [what, one] of loads) {
    const { edits, perSecond, median, p95, problems } = await load(base, one);
    const figure = `${Math.round(median)} ms median, ${Math.round(p95)} ms 95th, ${Math.round(perSecond)} a second`;
    tell(what, figure, one.rate > 4 ? 'budget 1,000 a second' : 'budget 50 ms 95th');
    tell('  lost, doubled, or in another order', `${problems.length} of ${edits}${problems.length ? `: ${problems.slice(0, 3).join('; ')}` : ''}`, '0');
  }
if (which === undefined || which === 'log') await log20k(base, tell);
if (which === undefined || which === 'floods') await floods(base, tell);
if (which === 'kills') await kills(Number(process.argv[3] ?? 500), tell);
