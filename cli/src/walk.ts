import { count, explore, planRoutes, routeWords, toJunit, walkedAll } from '@zany/core';
import { CODES } from './check.ts';
import { load } from './files.ts';

export const walkFormats = ['text', 'json', 'junit'] as const;
type Format = (typeof walkFormats)[number];

/** Walks what is kept with a file, and prints few and short routes over all that can fire. 1: a kept walk no longer holds. */
export async function walkFile(file: string, format: Format, maxStates: number | undefined, print: (text: string) => void): Promise<number> {
  const { program } = await load(file);
  const walks = walkedAll(program);
  const isBroken = walks.some(({ broken }) => broken !== null);
  if (format === 'junit') {
    print(toJunit(program, walks).trimEnd());
    return isBroken ? CODES.looseEnds : CODES.clean;
  }
  const exploration = explore(program, maxStates === undefined ? {} : { maxStates });
  const plan = planRoutes(program, exploration);
  const { cut } = exploration;
  if (format === 'json') print(JSON.stringify({ walks, plan, complete: cut === null, cut }, null, 2));
  else {
    const kept = walks.map(({ name, steps, held, broken }) =>
      broken === null ? `holds: ${name}, ${count(steps, 'step')}` : `broken: ${name}, at step ${held + 1} of ${steps}: ${broken}`
    );
    const routes = plan.routes.map(
      ({ from, events, fires }) => `  ${routeWords(program, from, events)} (${count(fires.length, 'branch', 'branches')})`
    );
    const sum = plan.routes.reduce((all, { fires }) => all + fires.length, 0);
    const how = cut === null ? 'explored completely' : `explored in part: ${cut}`;
    const missed = plan.missed.length ? `, no route found for ${plan.missed.length}` : '';
    const whole = `${count(plan.routes.length, 'route')}, ${count(plan.length, 'step')} over ${count(sum, 'branch', 'branches')}${missed}; no plan has fewer than ${count(plan.least, 'step')}; ${how}.`;
    print([...kept, ...routes, whole].join('\n'));
  }
  if (isBroken) return CODES.looseEnds;
  return cut === null ? CODES.clean : CODES.notAllWalked;
}
