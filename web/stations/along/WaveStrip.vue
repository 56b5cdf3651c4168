<script setup lang="ts">
import { useMutationObserver } from '@vueuse/core';
import { onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue';
import WaveSurfer from 'wavesurfer.js';
import RegionsPlugin from 'wavesurfer.js/plugins/regions';
import type { MappedBar } from '#core/along';

/** The recording as a waveform, with its bar lines over it: they can be dragged. */
const props = defineProps<{
  media: HTMLAudioElement;
  peaks: Float32Array[];
  duration: number;
  bars: MappedBar[];
  /** Bars are named by those of the song: what is not the song has a dot. */
  laid: boolean;
  /** Places of chords, with their names. */
  chords: { seconds: number; symbol: string }[];
}>();
const emit = defineEmits<{ move: [pulse: number, seconds: number] }>();

const box = useTemplateRef<HTMLElement>('box');
let surfer: WaveSurfer | null = null;
let regions: ReturnType<typeof RegionsPlugin.create> | null = null;
const PIXELS_A_SECOND = 44;
const UNSURE = 0.5;

const colour = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function draw(): void {
  if (!regions) return;
  regions.clearRegions();
  for (const { number, song, pulse, seconds, sure, set } of props.bars) {
    const mark = document.createElement('span');
    mark.className = `bar-mark${sure < UNSURE ? ' unsure' : ''}${set ? ' set' : ''}`;
    mark.textContent = props.laid ? String(song ?? '·') : String(number);
    const region = regions.addRegion({
      start: seconds,
      content: mark,
      drag: true,
      resize: false,
      color: colour(sure < UNSURE ? '--coral' : '--spruce'),
    });
    region.on('update-end', () => emit('move', pulse, region.start));
  }
  for (const { seconds, symbol } of props.chords) {
    const flag = document.createElement('span');
    flag.className = 'chord-mark';
    flag.textContent = symbol;
    // Below the number of its bar.
    flag.style.display = 'block';
    flag.style.marginTop = '1.2rem';
    regions.addRegion({
      start: seconds,
      content: flag,
      drag: false,
      resize: false,
      color: colour('--brass'),
    });
  }
}

/** Styles are let in only with the nonce of this page. */
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;

onMounted(() => {
  regions = RegionsPlugin.create();
  surfer = WaveSurfer.create({
    container: box.value!,
    media: props.media,
    peaks: props.peaks,
    duration: props.duration,
    height: 132,
    minPxPerSec: PIXELS_A_SECOND,
    ...colours(),
    cursorWidth: 2,
    hideScrollbar: false,
    autoScroll: true,
    autoCenter: true,
    plugins: [regions],
    ...(nonce && { cspNonce: nonce }),
  });
  // What scrolls can be reached and scrolled with keys.
  const scrolls = surfer.getWrapper().parentElement;
  scrolls?.setAttribute('tabindex', '0');
  scrolls?.setAttribute('role', 'group');
  scrolls?.setAttribute('aria-label', 'The recording over time');
  surfer.on('ready', draw);
});
watch(() => [props.bars, props.chords], draw);
/** The waveform is drawn on a canvas, which knows no style sheet: its colours go with the light. */
const colours = () => ({
  waveColor: colour('--string'),
  progressColor: colour('--arm'),
  cursorColor: colour('--ink'),
});
useMutationObserver(
  document.documentElement,
  () => {
    surfer?.setOptions(colours());
    draw();
  },
  { attributes: true, attributeFilter: ['class'] },
);
onBeforeUnmount(() => surfer?.destroy());
</script>

<template>
  <div ref="box" class="wave" role="group" aria-label="The recording, with its bar lines" />
</template>

<style scoped>
.wave {
  background: var(--paper-raised);
  border-radius: var(--radius);
  overflow: hidden;
}

.wave :deep(::part(region)) {
  border-left-width: 2px;
}

.wave :deep(::part(region-content)) {
  font: 600 0.75rem var(--text);
  padding: 0.1rem 0.3rem;
}
</style>
