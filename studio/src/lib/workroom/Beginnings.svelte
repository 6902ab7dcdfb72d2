<script lang="ts">
  import NewPiece from './NewPiece.svelte';
  import Starters from './Starters.svelte';

  interface Props {
    onpictures: () => void;
    onmake: (name: string, width: number, height: number) => void;
    ontake: (id: string) => Promise<void>;
    ontour: () => void;
  }
  /** What an empty Workroom shows: three ways to begin, and the tour. */
  let { onpictures, onmake, ontake, ontour }: Props = $props();
</script>

<section class="flex flex-col gap-10 py-4" aria-label="Ways to begin">
  <p class="flex flex-wrap items-center gap-3 text-[15px]">
    Never been here? Wire a button, try it and mend a loose end, in six short steps on a piece of its own.
    <button class="act act-go" onclick={ontour}>Take the tour</button>
  </p>
  <div class="flex flex-col gap-3">
    <h2 class="text-[17px]">With the pages you have</h2>
    <p class="flex flex-wrap items-center gap-3">
      Drop pictures anywhere here, one for each page, or an SVG file, or a package: they become frames that you can wire.
      <button class="act" onclick={onpictures}>Choose pictures</button>
    </p>
  </div>
  <div class="flex flex-col gap-3">
    <h2 class="text-[17px]">With a piece to take apart</h2>
    <Starters {ontake} />
  </div>
  <div class="flex flex-col gap-3">
    <h2 class="text-[17px]">With an empty one</h2>
    <NewPiece {onmake} />
  </div>
</section>
