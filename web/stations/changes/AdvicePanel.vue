<script setup lang="ts">
import Button from 'primevue/button';
import ToggleSwitch from 'primevue/toggleswitch';
import { computed, ref, useTemplateRef, watch } from 'vue';
import type { RuledOut, Song } from '#core/schema';
import { itemAt } from '#core/song';
import { rhythmCommands } from '#core/edit';
import { arrangement, previewBars } from '#core/arrange';
import { handCommand, type HandKind } from '#core/hand';
import FormRow from '../../fields/FormRow.vue';
import { focusNext } from '../../frame/announce';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';

/** What would help with a change: each with its new ceiling, what it costs, to be heard, used, and undone. */
const props = defineProps<{ song: Song; change: HandKind; behind: boolean }>();
const songs = useSongStore();
const player = usePlayerStore();

type Piece = HandKind['advice'][number];
const MOST = 300;
const upTo = ({ ceiling }: Piece) =>
  ceiling === null || ceiling >= MOST ? 'at any tempo' : `up to ${Math.floor(ceiling)}`;
const gain = ({ gain: by }: Piece) => (by === null || by < 1 ? '' : `, ${Math.round(by)} faster`);

/** The two bars around the change. */
function around(): { first: number; last: number } {
  const bar = itemAt(player.bars, props.change.tick)!;
  const first = bar.tick === props.change.tick ? Math.max(0, bar.index - 1) : bar.index;
  return { first, last: Math.min(player.bars.length - 1, first + 1) };
}
const hearing = ref<string | null>(null);

async function hear(edits: Piece['edits'], key: string): Promise<void> {
  if (player.auditioning && hearing.value === key) {
    player.stop();
    return;
  }
  const after = handCommand('try', edits).apply(props.song);
  const { first, last } = around();
  const alone = previewBars(arrangement(after), first, last);
  await player.audition(alone, { loop: true, click: player.click });
  hearing.value = key;
}
watch(
  () => player.auditioning,
  (sounding) => {
    if (!sounding) hearing.value = null;
  },
);

/** Advice that brings as much stands together, where the first of it stands; what slows another change is by itself. */
const groups = computed(() => {
  const found: Piece[][] = [];
  for (const piece of props.change.advice) {
    const same = found.find(
      ([first]) =>
        !first!.slows && !piece.slows && upTo(first!) + gain(first!) === upTo(piece) + gain(piece),
    );
    if (same && gain(piece) !== '') same.push(piece);
    else found.push([piece]);
  }
  return found;
});

const used = ref<string | null>(null);
function use({ label, edits }: Piece): void {
  player.stop();
  songs.run(handCommand(label.charAt(0).toLowerCase() + label.slice(1), edits));
  used.value = label;
  void focusNext(() => panel.value?.querySelector('.used button'));
}
const panel = useTemplateRef<HTMLElement>('panel');

const RULES: { value: RuledOut; label: string }[] = [
  { value: 'open strokes', label: 'strokes on open strings' },
  { value: 'damped strokes', label: 'damped strokes' },
  { value: 'strokes left out', label: 'strokes left out' },
  { value: 'other shapes', label: 'other shapes and fingers' },
  { value: 'other landings', label: 'landing otherwise' },
];
const ruledOut = computed(() => props.song.ruledOut ?? []);
function allow(rule: RuledOut, on: boolean): void {
  const others = ruledOut.value.filter((other) => other !== rule);
  songs.run(rhythmCommands.setRuledOut(on ? others : [...others, rule]));
}
</script>

<template>
  <section ref="panel" class="advice" aria-label="What helps">
    <h2>{{ change.from }} to {{ change.to }}: what helps</h2>
    <p v-if="used" class="used" role="status">
      Done: {{ used }}.
      <Button
        size="small"
        text
        label="Undo"
        icon="pi pi-undo"
        @click="(songs.stepBack(), (used = null))"
      />
    </p>
    <p v-if="change.ceiling === null" class="quiet">
      This change always works: no finger has to move in a hurry.
    </p>
    <p v-else-if="change.advice.length === 0" class="quiet">
      {{
        change.ceiling > 1.4 * song.tempo
          ? 'Plenty of time: nothing needs to be done.'
          : 'Nothing that we know of gives it more room. Practise it slowly.'
      }}
    </p>
    <div v-if="change.advice.length > 0" class="row">
      <Button
        size="small"
        severity="secondary"
        :icon="hearing === 'now' ? 'pi pi-stop' : 'pi pi-volume-up'"
        label="Hear it as it is"
        @click="hear([], 'now')"
      />
    </div>
    <ol>
      <li v-for="(group, index) in groups" :key="group[0]!.label" :class="{ behind }">
        <p v-if="group.length > 1" class="what">
          <span>Any of these</span>
          <span class="gain">{{ upTo(group[0]!) }}{{ gain(group[0]!) }}</span>
        </p>
        <div v-for="piece in group" :key="piece.label" class="piece">
          <p class="what">
            <strong>{{ piece.label }}</strong>
            <span v-if="group.length === 1" class="gain">{{ upTo(piece) }}{{ gain(piece) }}</span>
          </p>
          <p class="quiet">{{ piece.cost }}</p>
          <p v-if="piece.slows" class="slows">
            {{ piece.slows.from }} to {{ piece.slows.to }} then only up to
            {{ Math.floor(piece.slows.ceiling) }}
          </p>
          <div class="row">
            <Button
              size="small"
              text
              :icon="hearing === piece.label ? 'pi pi-stop' : 'pi pi-volume-up'"
              label="Hear"
              :aria-label="`Hear: ${piece.label}`"
              @click="hear(piece.edits, piece.label)"
            />
            <Button
              size="small"
              label="Use"
              :outlined="index > 0 || piece !== group[0]"
              :aria-label="`Use: ${piece.label}`"
              @click="use(piece)"
            />
          </div>
        </div>
      </li>
    </ol>
    <details class="tips">
      <summary>Tips to show</summary>
      <FormRow v-for="rule in RULES" :key="rule.value" v-slot="{ labelId }" :label="rule.label">
        <ToggleSwitch
          :model-value="!ruledOut.includes(rule.value)"
          :aria-labelledby="labelId"
          @update:model-value="(on: boolean) => allow(rule.value, on)"
        />
      </FormRow>
    </details>
  </section>
</template>

<style scoped>
.advice {
  display: grid;
  gap: 0.6rem;
}

h2 {
  font-size: 1.15rem;
}

ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.55rem;
}

li {
  padding: 0.55rem 0.7rem;
  border-radius: var(--radius);
  background: var(--paper-raised);
}

li.behind {
  opacity: 0.6;
}

.piece + .piece {
  margin-top: 0.5rem;
  padding-top: 0.5rem;
  border-top: 1px solid var(--line);
}

.what {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 0.8rem;
}

.gain {
  color: var(--brass-ink);
  font-weight: 650;
}

.slows {
  color: var(--coral);
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}

.used {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
}

.tips {
  --form-labels: 14rem;
}
</style>
