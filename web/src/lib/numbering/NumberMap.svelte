<!-- The number map: the line of codes, today above after, and what moves between them. -->
<script lang="ts">
  import type { Schemas } from '../api/client';
  import { count, plural } from '../figures';

  let {
    map,
    selected,
    select,
    into,
  }: {
    map: Schemas['MapView'];
    selected: ReadonlySet<number>;
    /** Takes the accounts on a stretch of the line today. */
    select: (accounts: number[]) => void;
    /** Takes a code to number into. */
    into: (code: string) => void;
  } = $props();

  const WIDTH = 1000;
  const BAND = 44;
  const BETWEEN = 96;
  const TOP = 18;
  const AFTER = TOP + BAND + BETWEEN;
  let svg: SVGSVGElement;
  let drag = $state<{ from: number; to: number } | null>(null);

  const x = (at: number) => at * WIDTH;
  const bandWidth = $derived(WIDTH / Math.max(map.bands.length, 1));
  const moved = $derived(
    map.ticks.filter(
      ({ today, after }) => today != null && after != null && Math.abs(today - after) > 1e-9,
    ),
  );
  const many = $derived(moved.length > 400);

  /** A path of all ticks at once: a chart may have ten thousand. */
  function ticks(at: (number | null | undefined)[], top: number): string {
    return at
      .filter((place) => place != null)
      .map((place) => `M${(x(place ?? 0) + 0.6).toFixed(2)} ${top + 6}v${BAND - 12}`)
      .join('');
  }
  const staying = $derived(new Set(moved.map(({ account }) => account)));
  const still = $derived(map.ticks.filter(({ account }) => !staying.has(account)));
  function arcOf({ today, after }: Schemas['TickView']): string {
    const [from, to] = [x(today ?? 0).toFixed(2), x(after ?? 0).toFixed(2)];
    const [above, below] = [TOP + BAND + 56, AFTER - 56];
    return `M${from} ${TOP + BAND}C${from} ${above},${to} ${below},${to} ${AFTER}`;
  }

  function place(event: PointerEvent): { at: number; y: number } {
    const box = svg.getBoundingClientRect();
    const at = (event.clientX - box.left) / box.width;
    return {
      at: Math.min(Math.max(at, 0), 0.9999),
      y: ((event.clientY - box.top) / box.height) * (AFTER + BAND + 20),
    };
  }

  function down(event: PointerEvent) {
    const { at, y } = place(event);
    if (y > AFTER - 8) {
      into(codeAt(at));
    } else if (y < TOP + BAND + 8) {
      drag = { from: at, to: at };
      svg.setPointerCapture(event.pointerId);
    }
  }

  function move(event: PointerEvent) {
    if (drag) drag = { ...drag, to: place(event).at };
  }

  function up() {
    if (!drag) return;
    // A click takes what is near enough to be meant.
    const slack = Math.abs(drag.to - drag.from) < 0.003 ? 0.004 : 0;
    const [low, high] = [
      Math.min(drag.from, drag.to) - slack,
      Math.max(drag.from, drag.to) + slack,
    ];
    const inside = map.ticks.filter(({ today }) => today != null && today >= low && today <= high);
    drag = null;
    select(inside.map(({ account }) => account));
  }

  /** The code that lies at a place, rounded down to a ten. */
  function codeAt(at: number): string {
    const band = map.bands[Math.floor(at * map.bands.length)];
    if (!band) return '';
    const within = at * map.bands.length - Math.floor(at * map.bands.length);
    const stem = band.first.replace(/\d+$/, '');
    const digits = band.first.slice(stem.length);
    const number = Number(digits) + Math.floor((within * band.room) / 10) * 10;
    return stem + String(number).padStart(digits.length, '0');
  }
</script>

<figure class="map">
  <svg
    bind:this={svg}
    viewBox="0 0 {WIDTH} {AFTER + BAND + 20}"
    preserveAspectRatio="none"
    role="img"
    aria-label="Number map: {plural(map.ticks.length, 'row')} on the line of codes, {plural(
      moved.length,
      'row',
    )} move"
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
  >
    {#each map.bands as band, n (band.first)}
      {#each [TOP, AFTER] as top (top)}
        <rect class="band" x={n * bandWidth + 0.5} y={top} width={bandWidth - 1} height={BAND} />
      {/each}
    {/each}
    <path
      class={['arc', many && 'many']}
      d={moved
        .filter((tick) => !tick.outside_today || many)
        .map(arcOf)
        .join('')}
    />
    <path
      class="tick"
      d={ticks(
        still.map(({ today }) => today),
        TOP,
      )}
    />
    <path
      class="tick"
      d={ticks(
        moved.map(({ today }) => today),
        TOP,
      )}
    />
    <path
      class="tick"
      d={ticks(
        still.filter((t) => t.today != null).map(({ after }) => after),
        AFTER,
      )}
    />
    <path
      class="tick new"
      d={ticks(
        [...moved, ...still.filter((t) => t.today == null)].map(({ after }) => after),
        AFTER,
      )}
    />
    {#if !many}
      <path
        class="arc stray"
        d={moved
          .filter((tick) => tick.outside_today)
          .map(arcOf)
          .join('')}
      />
    {/if}
    <path
      class="tick stray"
      d={ticks(
        map.ticks.filter((t) => t.outside_today).map((t) => t.today),
        TOP,
      )}
    />
    <path
      class="tick stray"
      d={ticks(
        map.ticks.filter((t) => t.outside_after).map((t) => t.after),
        AFTER,
      )}
    />
    <path
      class="tick chosen"
      d={ticks(
        map.ticks.filter((t) => selected.has(t.account)).map((t) => t.today),
        TOP,
      )}
    />
    {#if drag}
      <rect
        class="brush"
        x={x(Math.min(drag.from, drag.to))}
        y={TOP}
        width={x(Math.abs(drag.to - drag.from))}
        height={BAND}
      />
    {/if}
  </svg>
  <div class="titles">
    {#each map.bands as band (band.first)}
      <span class="truncate" title="{band.title}, {band.first} to {band.last}"
        ><b class="inline-block font-semibold first-letter:uppercase">{band.title || band.first}</b>
        <span class="hint">{count(band.today)} of {count(band.room)}</span></span
      >
    {/each}
  </div>
  <div class="feet">
    {#each map.bands as band (band.first)}
      <span class="hint truncate">
        {band.first}
        {#if band.free}
          · <button
            class="link"
            title="Number into this gap"
            onclick={() => into(band.free?.split(' ')[0] ?? '')}>{band.free} free</button
          >
        {:else}· full{/if}
      </span>
    {/each}
  </div>
</figure>

<style>
  .map {
    position: relative;
  }
  svg {
    display: block;
    width: 100%;
    height: 214px;
    cursor: crosshair;
    touch-action: none;
  }
  .band {
    fill: var(--color-base-200);
    stroke: var(--rule-strong);
    vector-effect: non-scaling-stroke;
    rx: 3px;
  }
  .tick {
    stroke: var(--color-primary);
    stroke-width: 1.2;
    vector-effect: non-scaling-stroke;
    opacity: 0.75;
    fill: none;
  }
  .tick.new {
    stroke: var(--color-warning);
    opacity: 1;
  }
  .tick.stray {
    stroke: var(--color-error);
    stroke-width: 2.2;
    opacity: 1;
  }
  .tick.chosen {
    stroke: var(--color-accent);
    stroke-width: 2.4;
    opacity: 1;
  }
  .arc {
    stroke: var(--color-accent);
    stroke-width: 1;
    opacity: 0.55;
    fill: none;
    vector-effect: non-scaling-stroke;
  }
  .arc.many {
    opacity: 0.12;
  }
  .arc.stray {
    stroke: var(--color-error);
    opacity: 0.9;
  }
  .brush {
    fill: var(--color-accent);
    opacity: 0.25;
  }
  .titles,
  .feet {
    position: absolute;
    left: 0;
    right: 0;
    display: grid;
    grid-auto-columns: minmax(0, 1fr);
    grid-auto-flow: column;
    pointer-events: none;
  }
  .titles > span,
  .feet > span {
    padding-left: 5px;
  }
  .titles {
    top: -3px;
  }
  .feet {
    bottom: -2px;
  }
  .feet button {
    pointer-events: auto;
  }
</style>
