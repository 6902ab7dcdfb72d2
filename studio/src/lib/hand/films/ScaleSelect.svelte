<script lang="ts">
  /** How many pixels a picture has for one of the piece. */
  let { scale = $bindable(), label }: { scale: number; label: string } = $props();

  const SCALES = [1, 2, 3] as const;
</script>

<label class="flex items-center gap-1.5"
  >size <select class="field h-8" bind:value={scale} aria-label={label}
    >{#each SCALES as one (one)}<option value={one}>{one}×</option>{/each}</select
  ></label
>
