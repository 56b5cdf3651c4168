<script setup lang="ts">
import { messageOf } from '#core/plain';
import Button from 'primevue/button';
import Textarea from 'primevue/textarea';
import { ref, watch } from 'vue';
import { usePracticeStore } from '../../stores/practice';
import { useSongStore } from '../../stores/song';
import { type JudgedTake, useTakesStore } from '../../stores/takes';
import { download } from '../../shell/download';

/** A take as a file for a teacher, and room for an answer to it. */
const props = defineProps<{
  take: JudgedTake;
  /** Its sound goes along. */
  sounds: boolean;
}>();
const songs = useSongStore();
const takes = useTakesStore();
const practice = usePracticeStore();
const told = ref<string | null>(null);
const writes = ref(false);
const text = ref('');
watch(
  () => props.take.id,
  () => {
    writes.value = false;
    told.value = null;
  },
);

const tried = (does: () => Promise<void>) =>
  does().catch((error: unknown) => {
    told.value = messageOf(error);
  });
const send = () =>
  tried(async () => {
    told.value = null;
    const file = await takes.toSend();
    if (!file) return;
    const title = `${songs.song?.title ?? 'Take'}, bars ${props.take.from} to ${props.take.to}`;
    download(file, 'application/zip', { title, ending: 'take.zip' });
  });
function write(): void {
  text.value = props.take.answer ?? '';
  writes.value = true;
}
const keep = () =>
  tried(async () => {
    await takes.answer(text.value.trim());
    writes.value = false;
    told.value = null;
  });
</script>

<template>
  <section v-if="take.id && !practice.drill" class="sending" aria-label="A take to send">
    <template v-if="writes">
      <label for="answer" class="label">Answer to this take</label>
      <Textarea id="answer" v-model="text" rows="3" auto-resize :maxlength="2000" autofocus />
      <div class="row">
        <Button size="small" label="Keep the answer" @click="keep" />
        <Button size="small" text label="Cancel" @click="writes = false" />
      </div>
    </template>
    <div v-else class="row">
      <Button
        size="small"
        text
        icon="pi pi-send"
        :label="sounds ? 'Save it to send, with its sound' : 'Save it to send, without sound'"
        title="One file with the song, what was heard, and the answer"
        @click="send"
      />
      <Button
        size="small"
        text
        icon="pi pi-comment"
        :label="take.answer ? 'Change the answer' : 'Write an answer'"
        @click="write"
      />
    </div>
    <p v-if="told" role="alert">{{ told }}</p>
  </section>
</template>

<style scoped>
.sending {
  display: grid;
  gap: 0.4rem;
}

.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.8rem;
}
</style>
