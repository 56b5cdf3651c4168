<script setup lang="ts">
import { messageOf } from '#core/plain';
import { useDark, useTitle } from '@vueuse/core';
import Button from 'primevue/button';
import {
  computed,
  defineAsyncComponent,
  nextTick,
  onErrorCaptured,
  onMounted,
  provide,
  ref,
  toRef,
  watch,
} from 'vue';
import { RouterLink, RouterView, useRoute } from 'vue-router';
import { stringNames, stringThickness } from '#core/neck';
import { useRegion, useRegionKeys } from '../frame/regions';
import { announced } from '../frame/announce';
import { firstScreen } from '../frame/firstScreen';
import { whenIdle } from '../frame/idle';
import { usePageKeys } from '../frame/keys';
import MoreButton from '../frame/MoreButton.vue';
import { useOverflow } from '../frame/overflow';
import SaveLine from './SaveLine.vue';
import { loadStations, router, STATIONS } from '../router';
import { LEFT_HANDED } from '../chords/handed';
import { BASS_AT_BOTTOM, STRINGS } from '../path/turned';
import { useSongStore } from '../stores/song';
import { useViewStore } from '../stores/view';

/** Fetched when it is first asked for. */
const HelpDialog = defineAsyncComponent(() => import('../help/HelpDialog.vue'));

/** Waits until the shelf shows its songs, where it is what is opened, and then for a quiet moment. */
async function afterFirstScreen(longest: number): Promise<void> {
  await router.isReady();
  if (route.name === 'shelf') await firstScreen;
  await new Promise<void>((resolve) => whenIdle(resolve, longest));
}

/** Loaded once the first screen is there: it brings the arranging and the sound, which can wait. */
const StageBar = defineAsyncComponent(async () => {
  await afterFirstScreen(400);
  return import('./StageBar.vue');
});

/** Likewise: it is only there while an evening is gone through. */
const PlanStrip = defineAsyncComponent(async () => {
  await afterFirstScreen(1000);
  return import('./PlanStrip.vue');
});

const songs = useSongStore();
const view = useViewStore();
provide(LEFT_HANDED, toRef(view, 'leftHanded'));
provide(BASS_AT_BOTTOM, toRef(view, 'bassAtBottom'));
const drawnStrings = computed(() => {
  const instrument = songs.song?.instrument;
  return instrument
    ? { names: stringNames(instrument), thickness: stringThickness(instrument) }
    : null;
});
provide(STRINGS, drawnStrings);
const evening = useDark({
  valueDark: 'evening',
  valueLight: '',
  // It would put a style element into the page, which the content policy refuses.
  disableTransition: false,
});
/** The stand view is nothing but what is played. */
const route = useRoute();
const standing = computed(() => route.name === 'stand');
const broken = ref<string | null>(null);
useRegion('stations', 'stationsRegion');
useRegionKeys();

/** Each page has a title of its own. */
useTitle(() => {
  const station = STATIONS.find(({ name }) => name === route.name)?.label;
  const others: Record<string, string> = {
    stand: 'Stand view',
    new: 'New song',
    patterns: 'A pattern alone',
    log: 'Log',
    phone: 'On my phone',
  };
  const page = others[String(route.name)] ?? station;
  const of = route.params.id ? songs.title : null;
  return [page ?? 'Shelf', of, 'Plucky Wrist'].filter(Boolean).join(' · ');
});

/** What is there only beside an open song is made ahead, so that opening one does not wait for it. */
const ahead = ref(false);
const stations = computed(() =>
  STATIONS.map((station) => ({
    ...station,
    to: { name: station.name, params: { id: songs.id ?? 'none' } },
  })),
);

usePageKeys(
  (event) => {
    const key = event.key.toLowerCase();
    if (key !== 'z' && key !== 'y') return false;
    if (key === 'y' || event.shiftKey) songs.stepForth();
    else songs.stepBack();
    return true;
  },
  { command: true },
);

const helping = ref(false);
const everHelped = ref(false);
watch(helping, () => (everHelped.value = true));
usePageKeys(({ key }) => {
  if (key !== '?' || standing.value) return false;
  helping.value = true;
  return true;
});
watch(
  () => route.name,
  () => (helping.value = false),
);

/** The open station is in sight among the others, however narrow the window is. */
const nav = ref<HTMLElement>();
const { hasMore, goOn, measure } = useOverflow(nav);
watch([() => songs.title, ahead], () => void nextTick(measure));
watch(
  [() => route.name, () => songs.title],
  async () => {
    await nextTick();
    nav.value
      ?.querySelector('.router-link-exact-active')
      ?.scrollIntoView({ block: 'nearest', inline: 'center' });
  },
  { flush: 'post' },
);

const LOAD_AHEAD_AFTER = 1500;
/** For the first song that is opened: it waits until the page has a moment, and only while one looks for it. */
async function getReady(): Promise<void> {
  await loadStations();
  ahead.value = true;
  const { rehearse } = await import('../rehearsal');
  if (route.name === 'shelf') await rehearse(() => route.name === 'shelf');
}
onMounted(() => {
  // A server that is away is told of by the save line; the station is then loaded when it is opened.
  setTimeout(() => void getReady().catch(() => undefined), LOAD_AHEAD_AFTER);
});

onErrorCaptured((error) => {
  broken.value = messageOf(error);
});
</script>

<template>
  <div class="house">
    <a class="skip" href="#main">To the station</a>
    <header v-if="!standing" ref="stationsRegion" class="shell">
      <RouterLink class="brand" :to="{ name: 'shelf' }" aria-label="Plucky Wrist, to the shelf">
        <svg viewBox="0 0 46 26" aria-hidden="true">
          <path d="M2 4C10 4 10 22 18 22S26 4 34 4S40 13 44 18" />
          <circle cx="10" cy="13" r="3.6" />
        </svg>
        Plucky Wrist
      </RouterLink>
      <div class="row">
        <nav ref="nav" aria-label="Stations">
          <RouterLink :to="{ name: 'shelf' }" class="tab">Shelf</RouterLink>
          <div v-if="songs.title || ahead" v-show="songs.title" class="within">
            <span class="of" :title="songs.title ?? undefined">{{ songs.title }}</span>
            <RouterLink
              v-for="station in stations"
              :key="station.name"
              :to="station.to"
              class="tab"
            >
              {{ station.label }}
            </RouterLink>
          </div>
          <RouterLink :to="{ name: 'log' }" class="tab">Log</RouterLink>
        </nav>
        <MoreButton :shown="hasMore" label="More stations" @press="goOn" />
      </div>
      <div class="tools">
        <SaveLine />
        <div v-if="songs.title || ahead" v-show="songs.title" class="within">
          <Button
            icon="pi pi-undo"
            text
            rounded
            :disabled="!songs.undoName"
            :aria-label="songs.undoName ? `Undo: ${songs.undoName}` : 'Undo'"
            :title="songs.undoName ? `Undo: ${songs.undoName}` : undefined"
            @click="songs.stepBack()"
          />
          <Button
            icon="pi pi-refresh"
            text
            rounded
            :disabled="!songs.redoName"
            :aria-label="songs.redoName ? `Redo: ${songs.redoName}` : 'Redo'"
            :title="songs.redoName ? `Redo: ${songs.redoName}` : undefined"
            @click="songs.stepForth()"
          />
        </div>
        <Button
          icon="pi pi-question-circle"
          text
          rounded
          aria-label="Help with this page"
          title="Help with this page (?)"
          aria-haspopup="dialog"
          @click="helping = true"
        />
        <Button
          :icon="evening ? 'pi pi-sun' : 'pi pi-moon'"
          text
          rounded
          :aria-label="evening ? 'Day colours' : 'Evening colours'"
          @click="evening = !evening"
        />
      </div>
    </header>
    <PlanStrip v-if="!standing" />
    <main id="main" tabindex="-1">
      <div v-if="broken" class="station" role="alert">
        <p>Something went wrong on this screen: {{ broken }} What you had is kept.</p>
        <p><a href="">Load it again</a></p>
      </div>
      <RouterView v-else />
    </main>
    <StageBar v-if="!standing" />
    <p class="heard-only" role="status">{{ announced }}</p>
    <HelpDialog v-if="everHelped" v-model="helping" :station="String(route.name)" />
  </div>
</template>

<style scoped>
.skip {
  position: absolute;
  left: -999px;
}

.skip:focus {
  left: 1rem;
  top: 0.5rem;
  z-index: 50;
  background: var(--paper-raised);
  padding: 0.4rem 0.8rem;
}

.shell {
  display: flex;
  align-items: center;
  gap: 1.6rem;
  padding: 0.55rem 2rem;
  min-height: 3.5rem;
}

.brand {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  font-family: var(--display);
  font-weight: 700;
  font-size: 1.2rem;
  letter-spacing: -0.02em;
  text-decoration: none;
  white-space: nowrap;
}

.brand svg {
  width: 2.9rem;
}

.brand path {
  fill: none;
  stroke: var(--spruce);
  stroke-width: 3;
  stroke-linecap: round;
}

.brand circle {
  fill: var(--brass);
}

.row {
  position: relative;
  flex: 1;
  min-width: 0;
}

nav {
  display: flex;
  align-items: center;
  gap: 0.3rem;
  min-width: 0;
  /* A notice beside it takes its room: the stations scroll. */
  overflow-x: auto;
  scrollbar-width: none;
}

.within {
  display: contents;
}

.tab {
  flex: none;
  padding: 0.4rem 0.8rem;
  text-decoration: none;
  font-weight: 600;
  color: var(--ink-soft);
  border-bottom: 3px solid transparent;
}

@media (pointer: coarse) {
  .tab {
    min-width: 2.75rem;
    justify-content: center;
  }
}

.tab:hover {
  color: var(--ink);
}

.tab.router-link-exact-active {
  color: var(--ink);
  border-bottom-color: var(--brass);
}

.of {
  margin-left: 1rem;
  padding-left: 1.3rem;
  border-left: 1px solid var(--line);
  font-family: var(--display);
  margin-right: 0.8rem;
  max-width: 17rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.tools {
  display: flex;
  align-items: center;
  gap: 0.2rem;
}

/* The name of the song is what gives way first: the stations stand closer before it does. */
@media (max-width: 90rem) {
  .tab {
    padding: 0.4rem 0.55rem;
  }

  .of {
    margin: 0 0.3rem 0 0.4rem;
    padding-left: 0.9rem;
  }
}

@media (max-width: 62rem) {
  .shell {
    flex-wrap: wrap;
    gap: 0 0.6rem;
    padding: 0.2rem 0.8rem;
    min-height: 0;
  }

  /* The stations scroll sideways where they have no room; the one that is open comes into sight. */
  .row {
    order: 3;
    flex-basis: 100%;
  }

  nav {
    overflow-x: auto;
    scrollbar-width: none;
    /* The ring of the focus is not cut off. */
    padding: 0.2rem;
  }

  .of {
    margin: 0;
    padding-left: 0.6rem;
    flex: none;
    max-width: 7rem;
  }

  .tab {
    padding: 0.35rem 0.5rem;
  }

  .brand {
    font-size: 1rem;
  }

  .brand svg {
    width: 2.2rem;
  }

  .tools {
    margin-left: auto;
  }
}

/* On a phone the sign stands for the name, so that all that is beside it has one row. */
@media (max-width: 30rem) {
  .brand {
    font-size: 0;
  }
}

/* Where the window is low, as at twice the size, the head of the page is one row. */
@media (max-width: 62rem) and (max-height: 34rem) {
  .shell {
    flex-wrap: nowrap;
  }

  .row {
    order: 0;
    flex-basis: 0;
  }

  .brand,
  .of {
    display: none;
  }
}

/* The page never scrolls: what is between header and stage bar does, so nothing lies under either. */
.house {
  display: flex;
  flex-direction: column;
  height: 100vh;
  height: 100dvh;
}

main {
  flex: 1;
  min-height: 0;
  overflow: auto;
  outline: 0;
}
</style>
