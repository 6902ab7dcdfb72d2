/// <reference lib="webworker" />
import type { FollowedBatch, PadPress, Presence } from '$lib/shared/types';
import type { CommentsNews, ToTab } from './follow';

/**
 * One event stream for a whole browser: tabs say which piece they follow from which revision, and each gets its own news.
 * A browser opens only a few connections to one host, so a stream for each tab would soon block them all.
 */
interface Tab {
  readonly port: MessagePort;
  readonly piece: string;
  revision: number;
}

const scope = self as unknown as SharedWorkerGlobalScope;
const tabs = new Map<MessagePort, Tab>();
let stream: EventSource | null = null;
let followed = '';

scope.onconnect = ({ ports }) => {
  const port = ports[0]!;
  port.onmessage = ({ data }: MessageEvent<{ follow: string; revision: number } | 'leave'>) => {
    if (data === 'leave') tabs.delete(port);
    else tabs.set(port, { port, piece: data.follow, revision: data.revision });
    connect();
  };
};

/** Opens the stream anew when the set of pieces has changed, or a tab is behind what the stream will still send. */
function connect(): void {
  const from = new Map<string, number>();
  for (const tab of tabs.values()) from.set(tab.piece, Math.min(tab.revision, from.get(tab.piece) ?? Infinity));
  const places = [...from]
    .sort()
    .map(([piece, revision]) => `${piece}:${revision}`)
    .join(',');
  if (places === followed && stream?.readyState !== EventSource.CLOSED) return;
  followed = places;
  stream?.close();
  stream = null;
  if (!places) return;
  const opened = new EventSource(`/api/follow?from=${encodeURIComponent(places)}`);
  stream = opened;
  opened.addEventListener('batch', ({ data }) => {
    const news = JSON.parse(data as string) as FollowedBatch;
    for (const tab of tabs.values())
      if (tab.piece === news.piece && tab.revision < news.revision) {
        tab.revision = news.revision;
        tab.port.postMessage(news);
      }
  });
  for (const what of ['pad', 'presence', 'comments'])
    opened.addEventListener(what, ({ data }: MessageEvent<string>) => {
      const told = JSON.parse(data) as PadPress | Presence | CommentsNews;
      for (const tab of tabs.values()) if (tab.piece === told.piece) tab.port.postMessage(told);
    });
  opened.addEventListener('behind', ({ data }) => leave(({ piece }) => piece === pieceIn(data), { behind: true }));
  opened.addEventListener('gone', ({ data }) => leave(({ piece }) => piece === pieceIn(data), { lost: 'not-found' }));
  opened.addEventListener('signed-out', () => leave(() => true, { lost: 'signed-out' }));
  opened.addEventListener('error', () => {
    if (opened.readyState === EventSource.CLOSED && stream === opened) void refused(opened.url);
  });
}

const pieceIn = (data: string): string => (JSON.parse(data) as { piece: string }).piece;

/** Tabs that nothing more comes for are told why, and come back when it is time. */
function leave(which: (tab: Tab) => boolean, why: ToTab): void {
  const gone = [...tabs.values()].filter(which);
  for (const tab of gone) {
    tabs.delete(tab.port);
    tab.port.postMessage(why);
  }
  if (gone.length) connect();
}

/** A stream that was refused says no more than that: what the answer was is asked for. */
async function refused(url: string): Promise<void> {
  const asking = new AbortController();
  const status = await fetch(url, { signal: asking.signal }).then(
    (response) => response.status,
    () => 0
  );
  asking.abort();
  if (status === 401) leave(() => true, { lost: 'signed-out' });
  else if (status === 404) leave(() => true, { lost: 'not-found' });
  else setTimeout(reconnect, 2000);
}

/** After an answer that a browser does not try again by itself, such as one from a server that is just starting. */
function reconnect(): void {
  followed = '';
  connect();
}
