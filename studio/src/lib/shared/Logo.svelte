<script lang="ts">
  let { size = 26 }: { size?: number } = $props();
</script>

<svg width={size} height={size * 0.92} viewBox="0 0 32 30" aria-hidden="true">
  <path d="M4 22c4 3 6-1 6-5s3-8 6-5 0 9 4 9 4-8 8-13" fill="none" stroke="var(--gold)" stroke-width="3.6" stroke-linecap="round" />
  <path d="M24 3l5 5" stroke="var(--ink)" stroke-width="3.6" stroke-linecap="round" />
</svg>
