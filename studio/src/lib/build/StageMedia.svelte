<script lang="ts">
  import { expand, framesPerSecond, mediaFrames, type Screen } from '@zany/core';
  import { beginOf, endOf, type ScreenView } from '@zany/player';
  import { onDestroy } from 'svelte';
  import type { EditorSession } from '$lib/client/session.svelte';

  /** Videos and sounds of the open scene, at the place of the playhead: they show it as it is dragged, and are heard as it plays. */
  interface Props {
    session: EditorSession;
    view: ScreenView;
    /** What is shown, so that players that have just come are put in their place too. */
    screen: Screen | null;
  }
  let { session, view, screen }: Props = $props();

  /** Seconds that a player may be off while it plays, and while it stands. */
  const MOST_OFF = { plays: 0.04, stands: 0.01 } as const;
  const playing = new Set<HTMLMediaElement>();

  $effect(() => {
    const { moment, playing: plays } = session;
    const scene = session.sceneId === null ? undefined : session.plain.scenes.get(session.sceneId);
    if (moment === null || !scene || !screen) return;
    const found = mediaFrames(expand(session.plain, scene).timed, moment);
    const alive = new Set<HTMLMediaElement>();
    for (const [key, { played, runs }] of found) {
      const media = view.mediaOf(key);
      if (!media) continue;
      alive.add(media);
      put(media, played / framesPerSecond(session.plain), plays && runs);
    }
    for (const media of playing) if (!alive.has(media)) stop(media);
  });

  function put(media: HTMLMediaElement, passed: number, plays: boolean) {
    const [begin, end] = [beginOf(media), Math.min(endOf(media), media.duration || Infinity)];
    const isOver = begin + passed >= end;
    const wanted = isOver && 'loop' in media.dataset && Number.isFinite(end) ? begin + (passed % (end - begin)) : Math.min(begin + passed, end);
    const on = plays && (!isOver || 'loop' in media.dataset);
    if (on && media.seeking) return;
    if (Math.abs(media.currentTime - wanted) > (on ? MOST_OFF.plays : MOST_OFF.stands)) media.currentTime = wanted;
    if (on && media.paused) {
      playing.add(media);
      void media.play().catch(() => playing.delete(media));
    } else if (!on) stop(media);
  }

  function stop(media: HTMLMediaElement) {
    media.pause();
    playing.delete(media);
  }

  onDestroy(() => playing.forEach(stop));
</script>
