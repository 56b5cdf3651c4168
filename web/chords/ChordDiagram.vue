<script setup lang="ts">
import type { Finger } from 'svguitar';
import { computed, nextTick, ref, watch } from 'vue';
import type { Instrument, Shape } from '#core/schema';
import { type AlternateBass, barres, stringNames } from '#core/neck';
import { drawnChord } from './drawnChord';
import { useLeftHanded } from './handed';

const props = defineProps<{
  shape: Shape;
  instrument: Instrument;
  /** What the diagram shows, in words. */
  label: string;
  bass?: { string: number; fret: number } | null;
  alternate?: AlternateBass | null;
  /** Fingers that stay where they are (drawn square) and that slide (drawn as triangles). */
  anchors?: number[];
  guides?: number[];
}>();

const leftHanded = useLeftHanded();
const box = ref<HTMLElement>();
const FRETS_SHOWN = 4;
/** Room for the number of a fret, as a share of the width. */
const NUMBER_ROOM = 0.22;

/** Strings as the package counts them: from the right, or from the left for the left-handed. */
const place = (string: number) =>
  leftHanded.value ? string + 1 : props.shape.frets.length - string;

const position = computed(() => {
  const fretted = props.shape.frets.filter((fret) => fret !== null && fret > 0) as number[];
  const highest = Math.max(0, ...fretted);
  return highest <= FRETS_SHOWN ? 1 : Math.min(...fretted);
});
const shown = computed(() => {
  const highest = Math.max(
    0,
    ...props.shape.frets.map((fret) => fret ?? 0),
    props.alternate?.fret ?? 0,
  );
  return Math.min(7, Math.max(FRETS_SHOWN, highest - position.value + 1));
});

/**
 * Draws with the standard package, which is loaded with the first diagram. Where it cannot be
 * loaded, the words beside the diagram say the same, and the next change tries again.
 */
async function draw(): Promise<void> {
  const { shape, bass, alternate } = props;
  const svguitar = await import('svguitar').catch(() => null);
  if (!svguitar || !box.value || shape !== props.shape) return;
  const { SILENT, OPEN, Shape: Form } = svguitar;
  const at = (fret: number) => (fret === 0 ? OPEN : fret - position.value + 1);
  const isBass = (string: number) => string === bass?.string;
  const isAlternate = (string: number, fret: number | null) =>
    alternate?.relation !== 'root again' && string === alternate?.string && fret === alternate.fret;

  const fingers = shape.frets.map((fret, string): Finger => {
    const brass = isBass(string) || isAlternate(string, fret);
    const color = isBass(string) ? 'var(--brass)' : 'var(--ink)';
    const finger = shape.fingers[string] ?? 0;
    const form = props.anchors?.includes(finger)
      ? Form.SQUARE
      : props.guides?.includes(finger)
        ? Form.TRIANGLE
        : Form.CIRCLE;
    return [
      place(string),
      fret === null ? SILENT : at(fret),
      {
        color,
        shape: form,
        strokeColor: brass ? 'var(--brass)' : color,
        textColor: 'var(--paper)',
        ...(fret && finger ? { text: String(finger) } : {}),
        ...(brass ? { strokeWidth: 5 } : {}),
      },
    ];
  });
  // An alternate that the shape does not hold is a hollow place beside it.
  if (
    alternate &&
    alternate.relation !== 'root again' &&
    shape.frets[alternate.string] !== alternate.fret
  ) {
    if (alternate.fret > 0) {
      fingers.push([
        place(alternate.string),
        at(alternate.fret),
        { color: 'var(--paper-raised)', strokeColor: 'var(--brass)', strokeWidth: 4 },
      ]);
    }
  }
  const laid = barres(shape).map(({ fret, first, last }) => ({
    fret: fret - position.value + 1,
    fromString: Math.max(place(first), place(last)),
    toString: Math.min(place(first), place(last)),
  }));
  const names = stringNames(props.instrument);
  const settings = {
    strings: shape.frets.length,
    frets: shown.value,
    position: position.value,
    tuning: leftHanded.value ? names.toReversed() : names,
    color: 'var(--ink)',
    stringColor: 'var(--string)',
    fretColor: 'var(--string)',
    tuningsColor: 'var(--ink-soft)',
    fretLabelColor: 'var(--ink-soft)',
    fontFamily: 'var(--text)',
    // The package sizes fingers by the gap between strings, which is wide where they are few.
    fingerSize: Math.min(0.86, 0.16 * shape.frets.length - 0.04),
    fingerTextSize: 32,
    tuningsFontSize: 36,
    fretLabelFontSize: 40,
    emptyStringIndicatorSize: 0.55,
    strokeWidth: 3,
    nutWidth: 9,
    titleFontSize: 1,
    titleBottomMargin: 0,
    noPosition: position.value === 1,
    // Up the neck the number of the first fret stands beside it; all have room for it, so that all are of one size.
    sidePadding: NUMBER_ROOM,
  };
  // Nothing stands on the other side, where a finger on the outer string is all that needs room.
  const unused = NUMBER_ROOM - 0.56 / shape.frets.length;
  const diagram = drawnChord(svguitar, { fingers, barres: laid }, settings, Math.max(0, unused));
  // All that are due are drawn before the first takes its place and changes the page.
  await nextTick();
  box.value?.replaceChildren(diagram);
}

watch(
  [
    box,
    () => JSON.stringify([props.shape, props.bass, props.alternate, props.anchors, props.guides]),
    () => leftHanded.value,
  ],
  draw,
  { flush: 'post' },
);
</script>

<template>
  <div ref="box" class="diagram" role="img" :aria-label="label" />
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

/* Where it is drawn before it takes its place: nothing in it changes where anything else is. */
:global(.drawing-corner) {
  position: fixed;
  inset: 0 auto auto 0;
  width: 10rem;
  height: 10rem;
  contain: strict;
  visibility: hidden;
}

/* The package turns the colours of a barre into plain ones, so it takes its own here. */
.diagram :deep(.barre) {
  fill: var(--arm);
}
</style>
