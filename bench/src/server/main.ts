import { atLeast, atMost, budget } from '../budget.ts';
import { floods } from './floods.ts';
import { kills } from './kills.ts';
import { load, type Load } from './load.ts';
import { longLog } from './long-log.ts';
import type { Tell } from './scripts.ts';

/** `npm run bench server [load|log|floods|kills [N]]`: what a server stands. Address, database and process come in the environment. */
const base = process.env['ZANY_URL']!;
const databaseUrl = process.env['ZANY_DATABASE_URL']!;
const [which, times = '40'] = process.argv.slice(2);
const tell: Tell = (what, figure, held = '') => console.log(`  ${what.padEnd(56)} ${figure.padEnd(64)} ${held}`);

const loads: [string, { readonly p95: number } | { readonly perSecond: number }, Load][] = [
  ['50 editors on one piece, 4 edits a second each', { p95: 50 }, { editors: 50, pieces: 1, rate: 4, seconds: 12, followers: true }],
  ['50 editors on ten pieces, 4 edits a second each', { p95: 50 }, { editors: 50, pieces: 10, rate: 4, seconds: 12, followers: true }],
  ['50 editors on one piece, nobody follows', { p95: 50 }, { editors: 50, pieces: 1, rate: 4, seconds: 8, followers: false }],
  ['50 editors on ten pieces, 20 edits a second each', { perSecond: 1000 }, { editors: 50, pieces: 10, rate: 20, seconds: 8, followers: false }],
];

if (which === undefined || which === 'load')
  for (const [what, limits, one] of loads) {
    const { edits, perSecond, median, p95, problems } = await load(base, one);
    const held =
      'p95' in limits
        ? budget(`${limits.p95} ms 95th`, atMost(p95, limits.p95))
        : budget(`${limits.perSecond} a second`, atLeast(perSecond, limits.perSecond));
    tell(what, `${Math.round(median)} ms median, ${Math.round(p95)} ms 95th, ${Math.round(perSecond)} a second`, held);
    tell(
      '  lost, doubled, or in another order',
      `${problems.length} of ${edits}${problems.length ? `: ${problems.slice(0, 3).join('; ')}` : ''}`,
      '0'
    );
  }
if (which === undefined || which === 'log') await longLog(base, databaseUrl, tell);
if (which === undefined || which === 'floods') await floods(base, Number(process.env['ZANY_PID']) || null, tell);
if (which === undefined || which === 'kills') await kills(databaseUrl, Number(times), tell);
process.exit(0);
