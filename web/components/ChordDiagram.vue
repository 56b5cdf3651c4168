<script setup lang="ts">
import type { Finger } from 'svguitar';
import { ref, watch } from 'vue';
import {
  barres,
  describeBass,
  describeStrings,
  type HeldChord,
  INSTRUMENTS,
  type InstrumentId,
} from '#core';

const props = defineProps<{ held: HeldChord; instrument: InstrumentId }>();

const box = ref<HTMLElement>();
const FRETS_SHOWN = 4;

/**
 * Draws with the standard package, which is loaded with the first diagram. Where it cannot be
 * loaded, the words beside the diagram say the same, and the next change tries again.
 */
async function draw(): Promise<void> {
  const { held, instrument } = props;
  const svguitar = await import('svguitar').catch(() => null);
  if (!svguitar || !box.value || held !== props.held) return;
  const { SVGuitarChord, SILENT, OPEN } = svguitar;
  const { shape, bass } = held;
  const strings = shape.frets.length;
  const fretted = shape.frets.filter((fret) => fret !== null && fret > 0) as number[];
  const highest = Math.max(0, ...fretted);
  const position = highest <= FRETS_SHOWN ? 1 : Math.min(...fretted);
  // The package counts strings from the right and frets from the position.
  const fingers = shape.frets.map((fret, string): Finger => {
    const marked = string === bass.string;
    const color = marked ? 'var(--brass)' : 'var(--ink)';
    const finger = shape.fingers[string];
    return [
      strings - string,
      fret === null ? SILENT : fret === 0 ? OPEN : fret - position + 1,
      {
        color,
        strokeColor: color,
        textColor: 'var(--paper)',
        ...(fret && finger ? { text: String(finger) } : {}),
        ...(marked ? { strokeWidth: 4 } : {}),
      },
    ];
  });
  const laid = barres(shape).map(({ fret, first, last }) => ({
    fret: fret - position + 1,
    fromString: strings - first,
    toString: strings - last,
  }));
  box.value.replaceChildren();
  new SVGuitarChord(box.value)
    .configure({
      strings,
      frets: FRETS_SHOWN,
      position,
      tuning: INSTRUMENTS[instrument].stringNames,
      color: 'var(--ink)',
      stringColor: 'var(--string)',
      fretColor: 'var(--string)',
      tuningsColor: 'var(--ink-soft)',
      fretLabelColor: 'var(--ink-soft)',
      fontFamily: 'var(--text)',
      fingerSize: 0.86,
      fingerTextSize: 32,
      tuningsFontSize: 36,
      fretLabelFontSize: 44,
      emptyStringIndicatorSize: 0.55,
      strokeWidth: 3,
      nutWidth: 9,
      titleFontSize: 1,
      titleBottomMargin: 0,
      noPosition: position === 1,
      sidePadding: 0.08,
    })
    .chord({ fingers, barres: laid })
    .draw();
  box.value.querySelector('svg')?.setAttribute('aria-hidden', 'true');
}

watch([box, () => props.held], draw, { flush: 'post' });

const label = () => {
  const { held } = props;
  const instrument = INSTRUMENTS[props.instrument];
  return `${held.symbol}: ${describeStrings(instrument, held.shape)}; bass on ${describeBass(instrument, held.bass)}`;
};
</script>

<template>
  <div ref="box" class="diagram" role="img" :aria-label="label()" />
</template>

<style scoped>
.diagram {
  min-height: 4rem;
}

.diagram :deep(svg) {
  display: block;
  width: 100%;
  height: 100%;
}

/* The package turns the colours of a barre into plain ones, so it takes its own here. */
.diagram :deep(.barre) {
  fill: var(--arm);
}
</style>
