/** Videos and sounds that play in step with a clock. What is left out at their ends stands on the element: `data-from`, `data-to`, ms. */

/** Seconds that a player may be off before it is put right. */
const MOST_OFF = 0.04;
/** Milliseconds between two corrections, so that one that cannot keep up does not only jump. */
const CALM = 400;

interface Playing {
  /** Where it was, in seconds of its own, at a moment of the clock. */
  readonly at: number;
  readonly clock: number;
  mended: number;
}

export class MediaInStep {
  private readonly playing = new Map<HTMLMediaElement, Playing>();
  private request = 0;

  constructor(
    /** Milliseconds of the run. */
    private readonly clock: () => number,
    private rate: number
  ) {}

  setRate(rate: number): void {
    this.rate = rate;
    for (const media of this.playing.keys()) {
      this.note(media);
      media.playbackRate = rate;
    }
  }

  rewind(media: HTMLMediaElement): void {
    media.currentTime = beginOf(media);
    if (this.playing.has(media)) this.note(media);
  }

  pause(media: HTMLMediaElement): void {
    media.pause();
    this.playing.delete(media);
  }

  play(media: HTMLMediaElement): void {
    if (media.ended || media.currentTime < beginOf(media) || media.currentTime >= endOf(media)) media.currentTime = beginOf(media);
    media.playbackRate = this.rate;
    this.note(media);
    // Browsers let nothing sound before a person has pressed something; silent it may play.
    void media.play().catch(() => {
      media.muted = true;
      void media.play().catch(() => undefined);
    });
    this.request ||= requestAnimationFrame(this.keepUp);
  }

  /** Lets everything stand. */
  stop(): void {
    for (const media of this.playing.keys()) media.pause();
    this.playing.clear();
  }

  private note(media: HTMLMediaElement): void {
    this.playing.set(media, { at: media.currentTime, clock: this.clock(), mended: -Infinity });
  }

  private readonly keepUp = (): void => {
    this.request = 0;
    for (const [media, playing] of this.playing) {
      if (!media.isConnected || (media.ended && !media.loop)) this.playing.delete(media);
      else if (media.currentTime >= endOf(media)) this.end(media);
      else this.mend(media, playing);
    }
    if (this.playing.size) this.request = requestAnimationFrame(this.keepUp);
  };

  private end(media: HTMLMediaElement): void {
    if ('loop' in media.dataset) {
      media.currentTime = beginOf(media);
      return this.note(media);
    }
    this.pause(media);
    media.dispatchEvent(new Event('ended'));
  }

  private mend(media: HTMLMediaElement, playing: Playing): void {
    const clock = this.clock();
    if (media.paused || media.seeking || media.readyState < media.HAVE_FUTURE_DATA || clock - playing.mended < CALM) return;
    const passed = playing.at + (clock - playing.clock) / 1000;
    const wanted = media.loop && media.duration ? passed % media.duration : passed;
    if (wanted >= media.duration || wanted >= endOf(media)) return;
    if (Math.abs(wanted - media.currentTime) <= MOST_OFF) return;
    media.currentTime = wanted;
    playing.mended = clock;
  }
}

/** Seconds at which it begins. */
export const beginOf = ({ dataset }: HTMLMediaElement): number => Number(dataset['from'] ?? 0) / 1000;

/** Seconds at which it ends before its own end; never where none is said. */
export const endOf = ({ dataset }: HTMLMediaElement): number => (dataset['to'] === undefined ? Infinity : Number(dataset['to']) / 1000);
