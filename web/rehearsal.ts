import { createPinia, disposePinia, getActivePinia, setActivePinia } from 'pinia';
import { createApp, nextTick } from 'vue';
import { newSong } from '#core/song';
import { withControls } from './controls';
import { whenIdle } from './frame/idle';
import { api } from './remote/client';
import { router } from './router';
import { lastShelf } from './stations/shelf/lastShelf';
import SongStation from './stations/song/SongStation.vue';
import { useSongStore } from './stores/song';

/**
 * Opens a song where nobody sees it, in stores of its own, and leaves it again: what runs for the first time
 * takes three times as long as what ran once, and the first song that a player opens is then not the first.
 * What its hand can do is worked out beside the page, as for any song; nothing is sent, and nothing is kept.
 * The first song of the shelf is read, which does the same for the server.
 * @param wanted whether it is still of use once that was read: no song is opened meanwhile
 * @example await rehearse(() => route.name === 'shelf'); // some 0.15 s of the page's time, once
 */
export async function rehearse(wanted: () => boolean): Promise<void> {
  const [first] = lastShelf.songs ?? [];
  if (first) await api.readSong(first.id).catch(() => null);
  await new Promise<void>((resolve) => whenIdle(resolve));
  if (!wanted()) return;
  const shown = getActivePinia();
  const pinia = createPinia();
  const song = newSong({
    title: 'Rehearsal',
    instrument: 'guitar',
    progression: 'Verse:\nA | D E7 | Bm | F#m G\nChorus:\nC | Am | Em <B7 | Dm',
  });
  const app = withControls(createApp(SongStation).use(pinia).use(router));
  try {
    await useSongStore(pinia).hold(song);
    app.mount(document.createElement('div'));
    await nextTick();
  } finally {
    app.unmount();
    disposePinia(pinia);
    setActivePinia(shown);
  }
}
