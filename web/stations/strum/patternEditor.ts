import { computed, nextTick, ref, type Ref, watch } from 'vue';
import type { Pattern, Stroke } from '#core/schema';
import { naturalDirections, nextLegato, slots, sounds } from '#core/stroke';
import {
  changeSpan,
  clearSpan,
  type Clip,
  copySpan,
  divideBeat,
  pasteClip,
  repeatSpan,
  shiftSpan,
  type SlotSpan,
  strum,
} from '#core/pattern';
import { commands } from '#core/edit';
import { useSongStore } from '../../stores/song';
import { type KeyPress, patternAction, type PatternAction } from '../../path/patternKeys';

/** The cursor on the pattern, what is selected, and what keys, buttons and fingers do to it. */
export function usePatternEditor(pattern: Ref<Pattern>) {
  const songs = useSongStore();
  const grid = computed(() => slots(pattern.value));
  const natural = computed(() => naturalDirections(pattern.value));
  const cursor = ref(0);
  /** The other end of what is selected. */
  const anchor = ref<number | null>(null);
  const clip = ref<Clip | null>(null);

  watch(grid, (now) => {
    cursor.value = Math.min(cursor.value, now.length - 1);
    if (anchor.value !== null) anchor.value = Math.min(anchor.value, now.length - 1);
  });

  const here = computed(() => grid.value[cursor.value] ?? grid.value[0]!);
  const selected = computed<SlotSpan | null>(() =>
    anchor.value === null
      ? null
      : {
          from: Math.min(anchor.value, cursor.value),
          to: Math.max(anchor.value, cursor.value) + 1,
        },
  );
  /** What is selected, or else the slot under the cursor. */
  const span = computed<SlotSpan>(
    () => selected.value ?? { from: cursor.value, to: cursor.value + 1 },
  );

  function edit(name: string, edited: Pattern): void {
    if (edited !== pattern.value) songs.runOnRhythm(commands.takeEdited(name, edited));
  }

  function moveTo(slot: number): void {
    anchor.value = null;
    cursor.value = (slot + grid.value.length) % grid.value.length;
  }

  function place(slot: number, stroke: Stroke): void {
    songs.runOnRhythm(commands.setStroke(slot, stroke));
  }

  function extendTo(slot: number): void {
    anchor.value ??= cursor.value;
    cursor.value = Math.min(grid.value.length - 1, Math.max(0, slot));
  }

  /** Divides every beat of the span anew. */
  async function divide(action: Extract<PatternAction, { do: 'divide' }>): Promise<void> {
    const { from, to } = span.value;
    const [first, last] = [grid.value[from]!.beat, grid.value[to - 1]!.beat];
    let edited = pattern.value;
    for (let beat = first; beat <= last; beat += 1) {
      if (edited.beats[beat]!.division !== action.division) {
        edited = divideBeat(edited, beat, action.division);
      }
    }
    edit('divide a beat', edited);
    await nextTick();
    moveTo(grid.value.find((slot) => slot.beat === first)!.index);
  }

  function onSpan(action: PatternAction): void {
    switch (action.do) {
      case 'copy':
      case 'cut':
        clip.value = copySpan(pattern.value, span.value);
        if (action.do === 'cut') edit('cut', clearSpan(pattern.value, span.value));
        break;
      case 'paste': {
        if (!clip.value) break;
        const { pattern: pasted, next } = pasteClip(pattern.value, span.value.from, clip.value);
        edit('paste', pasted);
        moveTo(next);
        break;
      }
      case 'repeat': {
        const { pattern: repeated, next } = repeatSpan(pattern.value, span.value);
        edit('repeat a span', repeated);
        moveTo(next);
        break;
      }
      case 'shift': {
        const moved = shiftSpan(pattern.value, span.value, action.by);
        edit('shift', moved.pattern);
        const whole = selected.value !== null;
        cursor.value = moved.span.to - 1;
        anchor.value = whole ? moved.span.from : null;
        break;
      }
      case 'clear':
        edit('make misses', clearSpan(pattern.value, span.value));
        if (selected.value === null) moveTo(cursor.value + 1);
        break;
      case 'change':
        edit(action.name, changeSpan(pattern.value, span.value, action.change));
    }
  }

  function act(action: PatternAction): void {
    switch (action.do) {
      case 'place': {
        // What the fretting hand sounds already goes on to its next way.
        const here = grid.value[cursor.value]!.stroke;
        const again = action.stroke.kind === 'legato' && here.kind === 'legato';
        place(cursor.value, again ? nextLegato(here) : action.stroke);
        moveTo(cursor.value + 1);
        break;
      }
      case 'erase':
        moveTo(cursor.value - 1);
        place(cursor.value, { kind: 'miss' });
        break;
      case 'divide':
        void divide(action);
        break;
      case 'move':
        moveTo(cursor.value + action.by);
        break;
      case 'edge':
        moveTo(action.to === 'first' ? 0 : -1);
        break;
      case 'select':
        extendTo(cursor.value + action.by);
        break;
      case 'select-all':
        anchor.value = 0;
        cursor.value = grid.value.length - 1;
        break;
      case 'deselect':
        anchor.value = null;
        break;
      default:
        onSpan(action);
    }
  }

  /** Does what a key does; false where it has no meaning here. */
  function press(key: KeyPress): boolean {
    const action = patternAction(key, natural.value[cursor.value]!);
    if (action) act(action);
    return action !== null;
  }

  /** A tap puts the arm's own stroke where it missed, or takes the stroke away; a swipe places one. */
  /** True once a stroke was chosen by hand: a first tap on it chooses, and only the next one changes. */
  let chosen = false;

  /** A swipe is a stroke; a tap chooses the stroke under it, and changes the one that is chosen. */
  function touch(slot: number, gesture: 'tap' | 'down' | 'up', accented: boolean): void {
    const accent = accented ? 'accent' : 'normal';
    if (gesture !== 'tap') return place(slot, strum(gesture, accent));
    const isChosen = chosen && slot === cursor.value && selected.value === null;
    chosen = true;
    if (!isChosen && !accented) return moveTo(slot);
    const sounding = sounds(grid.value[slot]!.stroke);
    place(slot, sounding && !accented ? { kind: 'miss' } : strum(natural.value[slot]!, accent));
  }

  function select(slot: number, extend: boolean): void {
    if (extend) extendTo(slot);
    else moveTo(slot);
  }

  return {
    grid,
    natural,
    cursor,
    here,
    selected,
    span,
    edit,
    moveTo,
    place,
    act,
    press,
    touch,
    select,
  };
}
