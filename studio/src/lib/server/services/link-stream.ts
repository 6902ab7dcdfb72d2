import { onTold } from '../listen';
import { log } from '../log';
import type { Principal } from '../principal';
import { holderOf } from './link-door';
import { linkAccess } from './rights';
import { Refusal } from '../refusal';

const encoder = new TextEncoder();
const HEARTBEAT = 20_000;

/** Streams that the holders of all links have open at most on this server; beyond that a page hears nothing until it is loaded anew. */
const MOST_STREAMS = 5000;
const open = new Set<() => void>();

/** Ends every stream, so that the server can stop. */
export function closeLinkStreams(): void {
  for (const close of [...open]) close();
}

/** Server-sent events for who walks by a link: `changed` when what it allows is another, `ended` when it is over, which is also the end of the stream. */
export async function streamOfLink(who: Principal, token: string, kept: string | undefined): Promise<ReadableStream<Uint8Array>> {
  const { holder } = await linkAccess(who, 'look by a link');
  if (open.size >= MOST_STREAMS) throw new Refusal('busy', 'Too many are here just now.');
  let end: () => void = () => undefined;
  return new ReadableStream<Uint8Array>({
    start: (controller) => {
      let isOpen = true;
      const send = (text: string) => isOpen && controller.enqueue(encoder.encode(text));
      const close = () => {
        if (!isOpen) return;
        end();
        controller.close();
      };
      const look = async () => {
        try {
          if (await holderOf(token, kept)) return;
          send('event: ended\ndata: 0\n\n');
        } catch (error) {
          log.warn({ err: error }, 'could not look whether a link still holds; its reader asks again');
        }
        close();
      };
      const stop = onTold((told) => {
        if ((told.type === 'comments' && told.piece === holder.piece) || told.type === 'gap') send('event: comments\ndata: 0\n\n');
        // What was told in a gap is gone: it may have been about this link.
        if (told.type === 'gap' || (told.type === 'link' && told.link === holder.link)) send('event: changed\ndata: 0\n\n');
        else if (told.type !== 'rights' || told.piece !== holder.piece) return;
        void look();
      });
      // One that ends by its time ends here too.
      const beat = setInterval(() => {
        send(': still here\n\n');
        void look();
      }, HEARTBEAT);
      end = () => {
        isOpen = false;
        stop();
        clearInterval(beat);
        open.delete(close);
      };
      open.add(close);
      send('retry: 1000\n\n');
    },
    cancel: () => end(),
  });
}
