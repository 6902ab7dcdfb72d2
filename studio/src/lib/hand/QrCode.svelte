<script lang="ts">
  import { toString } from 'qrcode';

  /** An address for the camera of a phone. Always dark on light, since cameras want it so. */
  let { text }: { text: string } = $props();
  let source = $state('');
  $effect(() => {
    void toString(text, { type: 'svg', margin: 2, errorCorrectionLevel: 'M', color: { dark: '#26232c', light: '#fffdf8' } }).then(
      (svg) => (source = `data:image/svg+xml,${encodeURIComponent(svg)}`)
    );
  });
</script>

<img src={source} alt="The address, for the camera of a phone" class="h-[116px] w-[116px] shrink-0 rounded-lg" />
