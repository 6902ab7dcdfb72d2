import { onceFor } from '../../once.ts';
import type { Thread } from '../../piece/piece.ts';
import { addressProblem, type AddressProblem } from '../../vocabulary/address.ts';
import { asBefore } from '../again.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
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
  spares: 'whether anything answers at the address: nothing is fetched',
  check: ({ program }) => {
    const { piece } = program;
    const faulty = asBefore(program, 'bad links', [piece.threads], () => threadsIn(piece).filter((thread) => faultsIn(thread).length > 0));
    return faulty.flatMap((thread) =>
      faultsIn(thread).map(({ problem, address, path }) => {
        const owner = thread.on === 'layer' ? ownerOf(piece, thread) : 'A thread';
        const better = `https://${address.trim()}`;
        const fixable = problem === 'no-scheme' && addressProblem(better) === null;
        return finding('bad-link', 'must', placeOfThread(piece, thread), `${owner} opens no proper address`, sentences[problem](address), {
          ...(fixable && {
            fix: { label: 'Put https:// in front', operations: [{ op: 'set', table: 'threads', id: thread.id, path, value: better }] },
          }),
        });
      })
    );
  },
};

interface LinkFault {
  readonly problem: AddressProblem;
  readonly address: string;
  readonly path: string[];
}

const faultsIn = onceFor((thread: Thread): readonly LinkFault[] =>
  thread.branches.flatMap(({ steps }, b) =>
    steps.flatMap((step, at) => {
      const problem = step.do === 'open' ? addressProblem(step.address) : null;
      return step.do === 'open' && problem ? [{ problem, address: step.address, path: ['branches', String(b), 'steps', String(at), 'address'] }] : [];
    })
  )
);
