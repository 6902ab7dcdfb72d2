import { count, explore, routeTo, startOf, type Exploration, type Program, routeWords } from '@zany/core';
import { load } from './files.ts';

/** Prints what can be reached in a file, and whether all of it was explored. */
export async function exploreFile(
  file: string,
  format: 'text' | 'json',
  maxStates: number | undefined,
  print: (text: string) => void
): Promise<number> {
  const { program } = await load(file);
  const exploration = explore(program, maxStates === undefined ? {} : { maxStates });
  print(format === 'json' ? asJson(program, exploration) : asText(program, exploration));
  return 0;
}

function asText(program: Program, exploration: Exploration): string {
  const how = exploration.cut === null ? 'Complete' : `Bounded: ${exploration.cut}`;
  const lines = [
    `${how}. ${count(exploration.count, 'state')}, ${count(exploration.moves, 'move')}, ${exploration.reached.size} of ${count(program.frames.length, 'frame')} reached.`,
  ];
  for (const frame of program.frames) {
    const state = exploration.reached.get(frame);
    const { name } = program.scenes.get(frame)!.scene;
    lines.push(
      state === undefined ? `  ${name}: not reached` : `  ${name}: ${routeWords(program, startOf(exploration, state), routeTo(exploration, state))}`
    );
  }
  return lines.join('\n');
}

const asJson = (program: Program, exploration: Exploration): string =>
  JSON.stringify(
    {
      complete: exploration.cut === null,
      cut: exploration.cut,
      states: exploration.count,
      transitions: exploration.moves,
      reached: program.frames.flatMap((frame) => {
        const state = exploration.reached.get(frame);
        return state === undefined
          ? []
          : [{ frame, name: program.scenes.get(frame)!.scene.name, from: startOf(exploration, state), route: routeTo(exploration, state) }];
      }),
      unreached: program.frames.filter((frame) => !exploration.reached.has(frame)),
      threadsFired: [...exploration.fired].sort(),
    },
    null,
    2
  );
