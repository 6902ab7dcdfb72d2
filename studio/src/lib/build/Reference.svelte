<script lang="ts" module>
  /** A picture to trace or compare with; it is no part of the piece. */
  export interface ReferencePicture {
    readonly url: string;
    readonly over: boolean;
    readonly opacity: number;
    /** What is covered of it from the left, as a share. */
    readonly wipe: number;
  }
</script>

<script lang="ts">
  let {
    picture,
    width,
    height,
    onchange,
    onclose,
  }: {
    picture: ReferencePicture;
    width: number;
    height: number;
    onchange: (picture: ReferencePicture) => void;
    onclose: () => void;
  } = $props();

  let box: HTMLElement;

  function wipe(event: PointerEvent) {
    const handle = event.currentTarget as HTMLElement;
    event.stopPropagation();
    handle.setPointerCapture(event.pointerId);
    handle.onpointermove = (next) => {
      const { left, width: wide } = box.getBoundingClientRect();
      onchange({ ...picture, wipe: Math.max(0, Math.min(1, (next.clientX - left) / wide)) });
    };
    handle.onpointerup = () => (handle.onpointermove = null);
  }
</script>

<div
  bind:this={box}
  class="pointer-events-none absolute left-0 top-0"
  style:width="{width}px"
  style:height="{height}px"
  style:z-index={picture.over ? 5 : undefined}
>
  <img
    src={picture.url}
    alt="Reference to compare with"
    class="h-full w-full object-contain object-top"
    style:opacity={picture.opacity}
    style:clip-path="inset(0 0 0 {picture.wipe * 100}%)"
  />
  <button
    class="pointer-events-auto absolute -bottom-3 h-6 w-3 -translate-x-1/2 cursor-ew-resize rounded bg-[var(--plum)]"
    style:left="{picture.wipe * 100}%"
    aria-label="Wipe between the reference and the scene"
    onpointerdown={wipe}
    onkeydown={(event) => {
      const by = event.key === 'ArrowRight' ? 0.05 : event.key === 'ArrowLeft' ? -0.05 : 0;
      if (!by) return;
      event.stopPropagation();
      onchange({ ...picture, wipe: Math.max(0, Math.min(1, picture.wipe + by)) });
    }}
  ></button>
</div>
<div
  class="absolute -top-9 left-0 z-10 flex items-center gap-1.5 whitespace-nowrap"
  role="toolbar"
  aria-label="Reference"
  tabindex="-1"
  onpointerdown={(event) => event.stopPropagation()}
>
  <span class="soft">Reference</span>
  <button class="chip" onclick={() => onchange({ ...picture, over: !picture.over })}>{picture.over ? 'over' : 'under'}</button>
  <input
    class="slide w-20"
    type="range"
    min="5"
    max="100"
    value={picture.opacity * 100}
    aria-label="Opacity of the reference"
    oninput={(event) => onchange({ ...picture, opacity: event.currentTarget.valueAsNumber / 100 })}
  />
  <button class="chip chip-ghost" aria-label="Take the reference away" onclick={onclose}>✕</button>
</div>
