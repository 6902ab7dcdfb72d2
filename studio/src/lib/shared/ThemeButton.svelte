<script lang="ts">
  import Lamp from '@lucide/svelte/icons/lamp';
  import Sun from '@lucide/svelte/icons/sun';

  let theme = $state(typeof document === 'undefined' ? 'linen' : (document.documentElement.dataset['theme'] ?? 'linen'));

  function turn() {
    theme = theme === 'linen' ? 'lamplight' : 'linen';
    document.documentElement.dataset['theme'] = theme;
    localStorage.setItem('zany-theme', theme);
  }
</script>

<button
  class="act act-plain"
  onclick={turn}
  aria-label={theme === 'linen' ? 'Change to lamplight' : 'Change to linen'}
  title={theme === 'linen' ? 'Lamplight' : 'Linen'}
>
  {#if theme === 'linen'}<Lamp size={16} />{:else}<Sun size={16} />{/if}
</button>
