import { sceneOfThread } from '../../piece/piece.ts';
import { addressProblem, type AddressProblem } from '../../steps/address.ts';
import { threadsIn } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';

const sentences: Record<AddressProblem, (address: string) => string> = {
  empty: () => 'The address is still empty.',
  'no-scheme': (address) => `“${address}” does not say what kind of address it is: https://, mailto: or tel:.`,
  scheme: (address) => `“${address}” is of a kind that is not opened; http, https, mailto and tel are.`,
  malformed: (address) => `“${address}” is not a complete address.`,
};

export const badLink: Rule = {
  id: 'bad-link',
  words: 'bad link',
  meaning: 'an address that is empty, malformed, or of a kind other than http, https, mailto and tel',
  check: ({ program: { piece } }) =>
    threadsIn(piece).flatMap((thread) =>
      thread.branches
        .flatMap((branch, b) => branch.steps.map((step, at) => ({ step, at, b })))
        .flatMap(({ step, at, b }) => {
          const problem = step.do === 'open' ? addressProblem(step.address) : null;
          if (step.do !== 'open' || problem === null) return [];
          const place = { scene: sceneOfThread(piece, thread), ...(thread.on === 'layer' && { layer: thread.owner }), thread: thread.id };
          const owner = thread.on === 'layer' ? piece.layers.get(thread.owner)!.name : 'A thread';
          const better = `https://${step.address.trim()}`;
          const fixable = problem === 'no-scheme' && addressProblem(better) === null;
          const path = ['branches', String(b), 'steps', String(at), 'address'];
          return [
            finding('bad-link', 'must', place, `${owner} opens no proper address`, sentences[problem](step.address), {
              ...(fixable && {
                fix: { label: 'Put https:// in front', operations: [{ op: 'set', table: 'threads', id: thread.id, path, value: better }] },
              }),
            }),
          ];
        })
    ),
};
