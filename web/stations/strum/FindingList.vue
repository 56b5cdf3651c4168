<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import type { ArmFinding } from '#core/pattern';

/** What the arm says: a sentence each, the way to it, and a button that fixes it. */
const props = defineProps<{ findings: ArmFinding[] }>();
defineEmits<{
  show: [finding: ArmFinding];
  fix: [finding: ArmFinding];
  mean: [finding: ArmFinding, meant: boolean];
}>();

/** More than these are folded away, so that the path stays in view. */
const FEW = 2;
const all = ref(false);
const speaking = computed(() => props.findings.filter(({ quiet }) => !quiet));
const shown = computed(() => (all.value ? speaking.value : speaking.value.slice(0, FEW)));
const quiet = computed(() => {
  const kinds = new Map<string, ArmFinding>();
  for (const finding of props.findings) if (finding.quiet) kinds.set(finding.kind, finding);
  return [...kinds.values()];
});
const QUIET = {
  against: 'Strokes against the arm are meant that way.',
  stopped: 'Rests of the arm are meant that way.',
  jump: 'Jumps from the bass are meant that way.',
  fast: 'The speed is meant that way.',
};
</script>

<template>
  <div v-if="findings.length > 0" class="findings">
    <ul aria-label="What the arm says">
      <li v-for="finding in shown" :key="`${finding.kind}${finding.slots[0]}`">
        <button type="button" class="reason" @click="$emit('show', finding)">
          {{ finding.reason }}
        </button>
        <Button
          size="small"
          :label="finding.fix.label"
          :aria-label="`${finding.fix.label}: ${finding.reason}`"
          @click="$emit('fix', finding)"
        />
        <Button
          size="small"
          text
          label="I meant that"
          :aria-label="`I meant that: ${finding.reason}`"
          @click="$emit('mean', finding, true)"
        />
      </li>
    </ul>
    <p v-if="speaking.length > FEW">
      <Button
        size="small"
        text
        :label="all ? 'Fewer' : `${speaking.length - FEW} more`"
        :aria-expanded="all"
        @click="all = !all"
      />
    </p>
    <p v-for="finding in quiet" :key="finding.kind" class="quiet">
      {{ QUIET[finding.kind] }}
      <Button size="small" text label="Say it again" @click="$emit('mean', finding, false)" />
    </p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.3rem;
}

li {
  display: grid;
  grid-template-columns: minmax(0, max-content) max-content max-content;
  justify-content: start;
  align-items: center;
  gap: 0.5rem;
}

.reason {
  border: 0;
  background: none;
  padding: 0;
  color: var(--coral);
  font-size: 0.95rem;
  font-weight: 600;
  line-height: 1.25;
  text-align: left;
  cursor: pointer;
}
</style>
