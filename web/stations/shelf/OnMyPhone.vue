<script setup lang="ts">
import { useAsyncState } from '@vueuse/core';
import Button from 'primevue/button';
import Dialog from 'primevue/dialog';
import { computed, ref } from 'vue';
import type { Phone } from '#core/schema';
import { api } from '../../remote/client';

/** The way in for a phone or tablet: an address, and the same as a code to scan. */
const { state: phone, error } = useAsyncState(api.readPhone, null as Phone | null);
const asking = ref(false);
/** What came of the new key, told where it was pressed. */
const told = ref('');

const first = computed(() => phone.value?.addresses[0] ?? null);
const others = computed(() => phone.value?.addresses.slice(1) ?? []);
const drawn = (code: string) => `data:image/svg+xml,${encodeURIComponent(code)}`;
const answer = computed(() => {
  if (error.value) return (error.value as Error).message;
  if (!phone.value) return 'On my phone';
  return first.value ? 'Scan this with your phone.' : 'Only this computer can open the app now.';
});

async function renew(): Promise<void> {
  asking.value = false;
  try {
    phone.value = await api.renewKey();
    told.value = 'There is a new key. Every phone and tablet needs this code again.';
  } catch (reason) {
    told.value = `The key is as it was: ${(reason as Error).message}`;
  }
}
</script>

<template>
  <section class="station">
    <h1 class="answer">{{ answer }}</h1>
    <template v-if="phone && first">
      <div class="in">
        <img :src="drawn(first.code)" alt="The address below, as a code to scan" />
        <div class="say">
          <p>
            Or open <span class="address">{{ first.url }}</span>
          </p>
          <p v-if="phone.keyed">
            The phone must be in the same network as this computer. It is let in for 90 days; the
            end of the address is the key, so give it only to people who may change your songs.
          </p>
          <p v-else class="warn">
            No key is asked: everyone in this network can read, change and delete everything. Start
            without <code>PLUCKY_KEY=off</code> to have one.
          </p>
          <p v-if="!phone.secure">
            The phone’s microphone stays off this way: browsers give it only to pages with a
            certificate. To use it, stop the app and start it with
            <code>HOST=0.0.0.0 npm start -- --https</code>.
          </p>
          <p v-else>
            The phone says once that it does not know the certificate: this computer made it itself.
            Choose to go on, then allow the microphone.
          </p>
          <p v-if="others.length > 0">
            Where that does not open:
            <span v-for="{ url } in others" :key="url" class="address">{{ url }} </span>
          </p>
          <p v-if="phone.keyed">
            <Button
              label="New key"
              icon="pi pi-key"
              outlined
              severity="secondary"
              @click="asking = true"
            />
          </p>
          <p role="status">{{ told }}</p>
        </div>
      </div>
    </template>
    <template v-else-if="phone">
      <p>
        To open it on a phone or tablet in your network, stop the app and start it with
        <code>HOST=0.0.0.0 npm start</code>, then come back to this page for the code. With
        <code>HOST=0.0.0.0 npm start -- --https</code> the phone’s microphone works too.
      </p>
    </template>
    <Dialog v-model:visible="asking" modal header="Make a new key?">
      <p class="ask">
        Every phone and tablet that is in now has to scan the new code. Nothing else changes.
      </p>
      <template #footer>
        <Button label="Keep this key" text autofocus @click="asking = false" />
        <Button label="New key" @click="renew" />
      </template>
    </Dialog>
  </section>
</template>

<style scoped>
.in {
  display: grid;
  grid-template-columns: 17rem minmax(0, 38rem);
  gap: 2rem;
  align-items: start;
}

img {
  width: 100%;
  background: #fff;
  border-radius: 0.6rem;
  padding: 0.4rem;
}

.say {
  display: grid;
  gap: 0.8rem;
}

.say p {
  margin: 0;
}

code {
  white-space: nowrap;
}

.address {
  font-weight: 600;
  overflow-wrap: anywhere;
  user-select: all;
}

.warn {
  color: var(--coral);
  font-weight: 600;
}

.ask {
  max-width: 26rem;
}

@media (max-width: 46rem) {
  .in {
    grid-template-columns: minmax(0, 1fr);
  }

  img {
    max-width: 17rem;
  }
}
</style>
