<script lang="ts">
  import {
    count,
    fileName,
    framesPerSecond,
    leavesOfScenes,
    leavesOfTimeline,
    MOST_PICTURES as MOST,
    scenesOf,
    shotsOfScenes,
    shotsOfTimeline,
    timedScenes,
    WALK_RATE,
    walksOf,
    type Shot,
  } from '@zany/core';
  import { drawnAs, filmOfKept, WishFault } from '@zany/player/pictures';
  import { useSession } from '$lib/shared/desk.svelte';
  import { download, sizeWords } from '$lib/shared/download';
  import { Making } from './film.svelte';
  import ScaleSelect from './ScaleSelect.svelte';
  import { canFilm as canFilmHere } from './webm';

  /** Frames as pictures, and timelines as films, made in this browser from what the stage shows. */
  const session = useSession();
  type FilmForm = 'webm' | 'gif' | 'png' | 'svg' | 'pdf';
  type What = 'pictures' | 'film' | 'walk';
  const FILES = { ...drawnAs, webm: { ending: '.webm', mediaType: 'video/webm' }, walk: drawnAs['walk-through'] } as const;

  const frames = $derived(session.program.frames.map((id) => session.program.scenes.get(id)!.scene));
  const bundles = $derived(Object.entries(session.piece.head.bundles ?? {}));
  const timed = $derived(timedScenes(session.piece));

  const parts = $derived(scenesOf(session.piece, 'part'));

  /** `all`, `parts`, `bundle ID` or `scene ID`. */
  let which = $state('all');
  let withStates = $state(false);
  let scale = $state(2);
  let picturesAs: 'png' | 'svg' | 'pdf' | 'walk' = $state('png');

  let scene = $state('');
  let from = $state(1);
  let to = $state<number | null>(null);
  let every = $state(1);
  let filmScale = $state(1);
  const canFilm = canFilmHere();
  let form: FilmForm = $state(canFilm ? 'webm' : 'gif');

  const filmed = $derived(timed.find(({ id }) => id === scene) ?? timed[0] ?? null);
  const length = $derived(filmed?.timeline?.length ?? 1);
  const last = $derived(Math.min(to ?? length, length));
  const rate = $derived(framesPerSecond(session.program));
  const pictures = $derived(Math.max(0, Math.floor((last - from) / every) + 1));

  const walks = $derived(walksOf(session.piece.head));
  let walkAt = $state(0);
  let walkScale = $state(1);
  let walkForm: 'webm' | 'gif' | 'png' = $state(canFilm ? 'webm' : 'gif');
  const filmedWalk = $derived(walks[walkAt] ?? walks[0] ?? null);

  let making: Making | null = $state.raw(null);
  let done: { what: What; name: string; size: number } | null = $state.raw(null);

  const chosen = $derived(
    new Set(
      [...frames, ...parts]
        .filter(
          ({ id, use, bundle }) =>
            which === (use === 'part' ? 'parts' : 'all') || which === `scene ${id}` || (bundle !== undefined && which === `bundle ${bundle}`)
        )
        .map(({ id }) => id)
    )
  );

  /** Makes a file of a film, or of pictures, and saves it. */
  async function make(what: What, as: keyof typeof FILES, begin: (own: Making) => Promise<Uint8Array | null>) {
    const own = (making = new Making());
    done = null;
    try {
      const file = await begin(own);
      if (!file) return;
      const about = what === 'film' ? ` ${filmed!.name}` : what === 'walk' ? ` ${filmedWalk!.name}` : '';
      const name = `${fileName(session.piece.head.name + about)}${FILES[as].ending}`;
      download(new Blob([file as BlobPart], { type: FILES[as].mediaType }), name);
      done = { what, name, size: file.length };
    } catch (error) {
      session.notify(`It could not be made: ${(error as Error).message}`);
    } finally {
      making = null;
    }
  }

  function savePictures() {
    const { program, assetUrl } = session;
    const wish = { shots: shotsOfScenes(program, chosen, withStates), assetUrl, scale };
    const leaves = () => ({ ...wish, shots: leavesOfScenes(program, wish.shots) });
    const forms = {
      png: (own: Making) => own.pictures(wish),
      svg: (own: Making) => own.svg(leaves()),
      pdf: (own: Making) => own.pdf(leaves(), program.piece.head.name),
      walk: (own: Making) => own.walkThrough(wish, program, new Date().toLocaleDateString('en-GB', { dateStyle: 'long' })),
    };
    void make('pictures', picturesAs, forms[picturesAs]);
  }

  function saveFilm() {
    if (!filmed) return;
    const loops = filmed.timeline!.loop === true;
    const wish = { shots: shotsOfTimeline(session.program, filmed.id, from - 1, last - 1, every), assetUrl: session.assetUrl, scale: filmScale };
    const leaves = () => ({ ...wish, shots: leavesOfTimeline(filmed.name, wish.shots) });
    const films = {
      webm: (own: Making) => own.webm(wish, rate / every),
      gif: (own: Making) => own.gif(wish, rate / every, loops),
      png: (own: Making) => own.pictures(wish),
      svg: (own: Making) => own.svg(leaves()),
      pdf: (own: Making) => own.pdf(leaves(), filmed.name),
    };
    void make('film', form, films[form]);
  }

  function saveWalk() {
    if (!filmedWalk) return;
    const { program, assetUrl } = session;
    let shots: Shot[];
    try {
      shots = filmOfKept(program, filmedWalk);
    } catch (error) {
      if (!(error instanceof WishFault)) throw error;
      return session.notify(error.message);
    }
    const wish = { shots, assetUrl, scale: walkScale };
    const films = {
      webm: (own: Making) => own.webm(wish, WALK_RATE),
      gif: (own: Making) => own.gif(wish, WALK_RATE, false),
      png: (own: Making) => own.pictures(wish),
    };
    void make('walk', walkForm, films[walkForm]);
  }
</script>

{#snippet doing(what: What)}
  {#if done?.what === what}<p class="text-[13px] text-[var(--teal)]" role="status">{done.name}: {sizeWords(done.size)}, in your downloads</p>{/if}
{/snippet}

<section class="flex flex-col" aria-label="Pictures and films">
  <h3 class="mb-2 text-[17px]">Pictures and films</h3>
  {#if making}
    <p class="mb-3 flex items-center gap-3" role="status">
      <progress class="progress w-[200px]" value={making.done} max={making.all} aria-label="Pictures made"></progress>
      <button class="chip" onclick={() => making?.stop()}>stop</button>
      <span class="tabular-nums">{making.done} of {making.all}</span>
    </p>
  {/if}
  <section class="flex items-center gap-5 border-t border-dashed border-[var(--gold)] py-3" aria-label="Pictures of frames">
    <div class="flex min-w-0 flex-1 flex-col gap-2">
      <h4 class="text-[15px] font-bold">Pictures of frames</h4>
      <div class="flex flex-wrap items-center gap-3">
        <select class="field h-8 max-w-[220px]" bind:value={which} aria-label="Which frames">
          <option value="all">all frames</option>
          {#each bundles as [id, { name }] (id)}<option value="bundle {id}">the bundle {name}</option>{/each}
          {#each frames as { id, name } (id)}<option value="scene {id}">{name}</option>{/each}
          {#if parts.length}
            <option value="parts">all parts</option>
            {#each parts as { id, name } (id)}<option value="scene {id}">the part {name}</option>{/each}
          {/if}
        </select>
        <label class="flex items-center gap-1.5"><input type="checkbox" bind:checked={withStates} /> in each of their states</label>
        {#if picturesAs !== 'svg'}
          <ScaleSelect bind:scale label="Size of the pictures" />{/if}
        <label class="flex items-center gap-1.5"
          >as <select class="field h-8" bind:value={picturesAs} aria-label="Form of the pictures">
            <option value="png">PNG pictures</option>
            <option value="svg">SVG drawings</option>
            <option value="pdf">one PDF</option>
            <option value="walk">a walk-through to print</option>
          </select></label
        >
      </div>
      {#if picturesAs === 'walk'}<p class="soft text-[13px]">
          One HTML page, laid out for A4: each frame with its areas numbered, and beside it what every thread says that is switched on. Print it from
          any browser, or keep it as a PDF from there.
        </p>{:else if picturesAs !== 'png'}<p class="soft text-[13px]">
          {picturesAs === 'pdf' ? 'A page for each, with its name beside it.' : 'A file for each, with its pictures and faces in it.'}
          Where a click leads from a frame as it begins, the {picturesAs === 'pdf' ? 'page' : 'file'} leads too; it remembers nothing, so no value leads
          it elsewhere.
        </p>{/if}
      {@render doing('pictures')}
    </div>
    <button class="act act-go h-9" disabled={making !== null || chosen.size === 0} onclick={savePictures}>Save the pictures</button>
  </section>
  {#if filmed}
    <section class="flex items-center gap-5 border-t border-dashed border-[var(--gold)] py-3" aria-label="Film of a timeline">
      <div class="flex min-w-0 flex-1 flex-col gap-2">
        <h4 class="text-[15px] font-bold">Film of a timeline</h4>
        <div class="flex flex-wrap items-center gap-3">
          <select
            class="field h-8 max-w-[220px]"
            value={filmed.id}
            onchange={(event) => ([scene, from, to] = [event.currentTarget.value, 1, null])}
            aria-label="Whose timeline"
          >
            {#each timed as { id, name } (id)}<option value={id}>{name}</option>{/each}
          </select>
          <label class="flex items-center gap-1.5"
            >from <input class="field h-8 w-[64px]" type="number" min="1" max={last} bind:value={from} aria-label="From timeline frame" /></label
          >
          <label class="flex items-center gap-1.5"
            >to <input
              class="field h-8 w-[64px]"
              type="number"
              min={from}
              max={length}
              value={last}
              onchange={(event) => (to = event.currentTarget.valueAsNumber || null)}
              aria-label="To timeline frame"
            /></label
          >
          <label class="flex items-center gap-1.5"
            >every <select class="field h-8" bind:value={every} aria-label="Which of them"
              >{#each [1, 2, 3, 4] as one (one)}<option value={one}>{['', 'frame', 'second', 'third', 'fourth'][one]}</option>{/each}</select
            ></label
          >
          <ScaleSelect bind:scale={filmScale} label="Size of the film" />
          <label class="flex items-center gap-1.5"
            >as <select class="field h-8" bind:value={form} aria-label="Form of the film">
              {#if canFilm}<option value="webm">a WebM film</option>{/if}
              <option value="gif">one GIF</option>
              <option value="png">PNG pictures</option>
              <option value="svg">SVG drawings</option>
              <option value="pdf">one PDF</option>
            </select></label
          >
        </div>
        <p class="soft text-[13px]">
          {count(pictures, 'picture')}, {(Math.round((rate / every) * 10) / 10).toLocaleString('en-GB')} a second. As the timeline is by itself: without
          threads, and without what videos show.{form === 'gif'
            ? ' A GIF has 256 colours in each picture, and no more than 50 pictures a second.'
            : ''}
        </p>
        {#if pictures > MOST}<p class="chip chip-brick self-start">At most {MOST} pictures are made at once.</p>{/if}
        {@render doing('film')}
      </div>
      <button class="act act-go h-9" disabled={making !== null || pictures === 0 || pictures > MOST || !(from >= 1)} onclick={saveFilm}
        >Save the film</button
      >
    </section>
  {/if}
  {#if filmedWalk}
    <section class="flex items-center gap-5 border-t border-dashed border-[var(--gold)] py-3" aria-label="Film of a kept walk">
      <div class="flex min-w-0 flex-1 flex-col gap-2">
        <h4 class="text-[15px] font-bold">Film of a kept walk</h4>
        <div class="flex flex-wrap items-center gap-3">
          <select
            class="field h-8 max-w-[220px]"
            value={walkAt}
            onchange={(event) => (walkAt = event.currentTarget.selectedIndex)}
            aria-label="Which walk"
          >
            {#each walks as { name }, i (i)}<option value={i}>{name}</option>{/each}
          </select>
          <ScaleSelect bind:scale={walkScale} label="Size of the walk's film" />
          <label class="flex items-center gap-1.5"
            >as <select class="field h-8" bind:value={walkForm} aria-label="Form of the walk's film">
              {#if canFilm}<option value="webm">a WebM film</option>{/if}
              <option value="gif">one GIF</option>
              <option value="png">PNG pictures</option>
            </select></label
          >
        </div>
        <p class="soft text-[13px]">
          {count(filmedWalk.steps.length, 'step')}, {WALK_RATE} pictures a second: where it is pressed, how each change goes, what comes of it. Time passes
          in the piece only where the walk waits; what videos show is left out.
        </p>
        {@render doing('walk')}
      </div>
      <button class="act act-go h-9" disabled={making !== null} onclick={saveWalk}>Save the walk's film</button>
    </section>
  {/if}
</section>
